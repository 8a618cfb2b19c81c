import type { ReportForm } from './export.ts';

/** Every address of the server's interface for programs, once. Ids are UUIDs. */
export const ROUTES = {
  projects: () => '/api/projects',
  deletedProjects: () => '/api/projects/deleted',
  demoProject: () => '/api/projects/demo',
  project: (id: string) => `/api/projects/${id}`,
  duplicateProject: (id: string) => `/api/projects/${id}/duplicate`,
  restoreProject: (id: string) => `/api/projects/${id}/restore`,
  removeProjectForGood: (id: string) => `/api/projects/${id}/for-good`,

  bundle: (projectId: string, media: 'with' | 'without' = 'with') => `/api/projects/${projectId}/bundle?media=${media}`,
  /** the cut as OpenTimelineIO with its media */
  otioz: (projectId: string) => `/api/projects/${projectId}/otioz`,
  bundles: () => '/api/bundles',
  /** keeps a project's montage as a template */
  keepTemplate: (projectId: string) => `/api/projects/${projectId}/template`,
  templates: () => '/api/templates',
  template: (id: string) => `/api/templates/${id}`,
  restoreTemplate: (id: string) => `/api/templates/${id}/restore`,
  templateFile: (id: string) => `/api/templates/${id}/file`,
  /** begins a project from a template */
  beginTemplate: (id: string) => `/api/templates/${id}/project`,

  /** songs that ship with Bluster */
  songs: () => '/api/songs',
  songSound: (id: string) => `/api/songs/${id}/sound`,
  /** takes one of them as a project's song */
  takeSong: (projectId: string) => `/api/projects/${projectId}/song`,

  montage: (projectId: string) => `/api/projects/${projectId}/montage`,
  montageFile: (projectId: string) => `/api/projects/${projectId}/montage/file`,
  lastGoodMontage: (projectId: string) => `/api/projects/${projectId}/montage/last-good`,
  versions: (projectId: string) => `/api/projects/${projectId}/versions`,
  version: (projectId: string, versionId: string) => `/api/projects/${projectId}/versions/${versionId}`,

  assets: (projectId: string) => `/api/projects/${projectId}/assets`,
  uploads: () => '/api/uploads',
  hurryAsset: (id: string) => `/api/assets/${id}/hurry`,
  discardAsset: (id: string) => `/api/assets/${id}/discard`,
  assetPart: (id: string, part: AssetPart) => `/api/assets/${id}/${part}`,
  tile: (id: string, picture: number) => `/api/assets/${id}/tiles/${picture}`,
  /** of several clips at once: `id.picture` each */
  tiles: (of: readonly string[]) => `/api/tiles?of=${of.join(',')}`,

  jobs: (projectId: string) => `/api/projects/${projectId}/jobs`,
  /** server-sent events: what becomes of a project's files and jobs */
  changes: (projectId: string) => `/api/projects/${projectId}/changes`,
  job: (id: string) => `/api/jobs/${id}`,
  cancelJob: (id: string) => `/api/jobs/${id}/cancel`,

  exports: (projectId: string) => `/api/projects/${projectId}/exports`,
  loudness: (projectId: string) => `/api/projects/${projectId}/loudness`,
  dressings: () => '/api/dressings',
  dressing: (id: string) => `/api/dressings/${id}`,
  film: (jobId: string) => `/api/exports/${jobId}/film`,
  report: (jobId: string, as: ReportForm = 'json') => `/api/exports/${jobId}/report?as=${as}`,
  removeFilm: (jobId: string) => `/api/exports/${jobId}`,
} as const;

/** Parts of an asset that are handed out. */
export type AssetPart = 'original' | 'photo' | 'thumb' | 'proxy' | 'strip' | 'sound' | 'look';
