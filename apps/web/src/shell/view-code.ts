type ViewCode = () => Promise<{ readonly Component: React.ComponentType }>;

/** The code of the five views, each fetched when it is asked for. */
export const viewCode = {
  song: () => import('../song/song-page.tsx').then(({ SongPage }) => ({ Component: SongPage })),
  footage: () => import('../footage/footage-page.tsx').then(({ FootagePage }) => ({ Component: FootagePage })),
  score: () => import('../score/score-page.tsx').then(({ ScorePage }) => ({ Component: ScorePage })),
  finish: () => import('../finish/finish-page.tsx').then(({ FinishPage }) => ({ Component: FinishPage })),
  export: () => import('../export/export-page.tsx').then(({ ExportPage }) => ({ Component: ExportPage })),
} satisfies Record<string, ViewCode>;
