import Papa from 'papaparse';
import { rateLabel } from '../time/rate.ts';
import type { SyncReport } from '../report/sync-report.ts';

const fixed = (value: number | null, digits: number): string => (value === null ? '' : value.toFixed(digits));

/** A cut as it was found in a film. */
interface FoundInFilm {
  readonly number: number;
  /** a frame of the film */
  readonly found: number | null;
  readonly errorMs: number | null;
  readonly why: string | null;
}

const inFilm = (cut: FoundInFilm | undefined): Record<string, string | number> => ({
  'frame found': cut?.found ?? '',
  'error measured ms': fixed(cut?.errorMs ?? null, 3),
  'not found because': cut?.why ?? '',
});

/**
 * The sync report as a table (RFC 4180): a row for each slot with the cut that it starts with. Times in seconds unless named otherwise.
 * @param found what was found of the cuts in the film; without, there are no columns for it
 * @returns the row of headings alone where there are no slots
 */
export function reportCsv(report: SyncReport, found: readonly FoundInFilm[] = []): string {
  const byCut = new Map(found.map((cut) => [cut.number, cut]));
  const rows = report.slots.map((slot, i) => {
    const cut = i === 0 ? null : report.cuts[i - 1]!;
    return {
      slot: slot.number,
      'first frame': slot.fromFrame,
      'last frame': slot.toFrame - 1,
      time: fixed(cut?.time ?? 0, 4),
      mark: cut ? (cut.mark ? `${cut.mark.kind}${cut.mark.part === null ? '' : ` + ${cut.mark.part}`}` : 'free') : 'start',
      'mark time': fixed(cut?.mark?.time ?? null, 4),
      'error ms': fixed(cut?.errorMs ?? null, 3),
      'error frames': fixed(cut?.errorFrames ?? null, 3),
      ...(found.length > 0 ? inFilm(cut ? byCut.get(cut.number) : undefined) : {}),
      clip: slot.clip ?? '',
      'clip first frame': slot.sourceFrames?.[0] ?? '',
      'clip last frame': slot.sourceFrames?.[1] ?? '',
      'speed %': slot.speed === null ? '' : fixed(slot.speed * 100, 1),
      'handle before': fixed(slot.handles?.[0] ?? null, 3),
      'handle after': fixed(slot.handles?.[1] ?? null, 3),
      missing: slot.missing > 0 ? fixed(slot.missing, 3) : '',
      warnings: slot.warnings.join('; '),
      'frame rate': rateLabel(report.rate),
    };
  });
  return `${Papa.unparse(rows, { newline: '\r\n' })}\r\n`;
}
