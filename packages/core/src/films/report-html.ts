import { clock } from '../time/clock.ts';
import { framesPerSecond } from '../time/rate.ts';
import type { SyncReport } from '../report/sync-report.ts';
import type { Proof } from './proof.ts';

/** A sync report with what was found in the film; films of earlier versions were not read back. */
export interface FilmReport extends SyncReport {
  /** the frames of the montage that it shows: from one to before the other */
  readonly stretch?: { readonly from: number; readonly to: number };
  readonly proof?: Proof | null;
}

const escaped = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;');
const fixed = (value: number | null | undefined, digits: number): string =>
  value === null || value === undefined ? '' : value.toFixed(digits);

const STYLE = `
body { font: 15px/1.5 system-ui, sans-serif; color: #1b2733; background: #f3efe6; margin: 2rem auto; max-width: 60rem; padding: 0 1rem }
table { border-collapse: collapse; width: 100%; background: #faf7f0 } th, td { text-align: right; padding: .2rem .6rem; border-bottom: 1px solid #d5ccba }
th:nth-child(3), td:nth-child(3), th:last-child, td:last-child { text-align: left } .bad { color: #b03a18; font-weight: 600 } svg { width: 100%; height: auto; background: #faf7f0 }
`;

/** Cuts against their marks as a drawing: late above the line, early below, between half a frame on either side. */
function drawing(report: FilmReport, proof: Proof): string {
  const [width, height, middle] = [960, 140, 70];
  const half = 500 / framesPerSecond(report.rate);
  const { from, to } = report.stretch ?? { from: 0, to: report.frames };
  const scale = (ms: number): number => middle - Math.max(-1.2, Math.min(1.2, ms / half)) * 50;
  const lines = proof.cuts.map((cut) => {
    const x = (cut.frame / Math.max(1, to - from)) * (width - 20) + 10;
    const wrong = cut.found !== cut.frame && cut.why !== 'alike';
    const y = scale(cut.errorMs ?? 0);
    return `<line x1="${x.toFixed(1)}" x2="${x.toFixed(1)}" y1="${middle}" y2="${y.toFixed(1)}" stroke="${wrong ? '#d9542f' : '#1f665c'}" stroke-width="2"/>`;
  });
  const rule = (ms: number): string =>
    `<line x1="0" x2="${width}" y1="${scale(ms)}" y2="${scale(ms)}" stroke="#d5ccba" stroke-dasharray="4 4"/>`;
  return `<svg viewBox="0 0 ${width} ${height}" role="img" aria-label="How far each cut is from its mark">${rule(half)}${rule(-half)}<line x1="0" x2="${width}" y1="${middle}" y2="${middle}" stroke="#56626d"/>${lines.join('')}</svg>`;
}

/**
 * The report of a film as one page that can be sent: the verdict, a drawing, and a row for each cut with what was planned and
 * what was found. It reads nothing from elsewhere.
 * @param name what the film is called
 */
export function reportHtml(name: string, report: FilmReport): string {
  const { proof = null } = report;
  const { from, to } = report.stretch ?? { from: 0, to: report.frames };
  const found = new Map(proof?.cuts.map((cut) => [cut.number, cut]));
  const rows = report.cuts
    .filter((cut) => cut.frame > from && cut.frame < to)
    .map((cut) => {
      const real = found.get(cut.number);
      const wrong = real && real.why !== 'alike' && real.found !== real.frame;
      const says = !real ? '' : real.why === 'alike' ? 'pictures are alike' : real.why === 'another picture' ? 'another picture' : '';
      const cells = [
        String(cut.number),
        clock((cut.frame - from) / framesPerSecond(report.rate)),
        cut.mark?.kind ?? 'free',
        String(cut.frame - from),
        fixed(cut.errorMs, 1),
        real?.found === null || real === undefined ? '' : String(real.found),
        fixed(real?.errorMs, 1),
        says,
      ];
      return `<tr${wrong ? ' class="bad"' : ''}>${cells.map((cell) => `<td>${escaped(cell)}</td>`).join('')}</tr>`;
    });
  const heads = ['cut', 'time', 'mark', 'frame planned', 'error planned, ms', 'frame found', 'error measured, ms', ''];
  const verdict = proof
    ? `<p class="${proof.good ? 'good' : 'bad'}"><b>${escaped(proof.verdict)}</b></p>${drawing(report, proof)}`
    : '<p>This film was not read back: the errors are planned.</p>';
  const sound = proof?.sound.filter(({ lateMs }) => lateMs !== null) ?? [];
  const heard =
    sound.length > 0
      ? `<p>Sound against the song, ms late: ${sound.map(({ at, lateMs }) => `${clock(at)} ${lateMs!.toFixed(2)}`).join(' · ')}</p>`
      : '';
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>${escaped(name)}: report</title><style>${STYLE}</style></head><body><h1>${escaped(name)}</h1><p>${report.width}×${report.height}, ${to - from} frames</p>${verdict}${heard}<table><thead><tr>${heads.map((head) => `<th>${head}</th>`).join('')}</tr></thead><tbody>${rows.join('')}</tbody></table></body></html>\n`;
}
