import { scaleLinear } from 'd3-scale';
import { clock, framesPerSecond, type FilmReport } from '@bluster/core';

const HEIGHT = 96;
const PAD = 8;
/** What is drawn beyond half a frame, so that half a frame can be seen to be kept. */
const BEYOND = 1.3;

interface CutsDrawingProps {
  readonly report: FilmReport;
  /** pixels */
  readonly width: number;
  /** goes to a moment, film seconds */
  readonly onGo: (time: number) => void;
}

/** Each cut of a finished film along it: how late or early it is against its mark, as measured; below, how late the sound is. */
export function CutsDrawing({ report, width, onGo }: CutsDrawingProps): React.JSX.Element | null {
  const { proof, rate } = report;
  if (!proof || width < 1) return null;
  const { from, to } = report.stretch ?? { from: 0, to: report.frames };
  const seconds = (to - from) / framesPerSecond(rate);
  const half = 500 / framesPerSecond(rate);
  const x = scaleLinear([0, seconds], [PAD, width - PAD - 78]);
  const y = scaleLinear([-BEYOND * half, BEYOND * half], [HEIGHT - 4, 4]).clamp(true);
  const rule = (ms: number): React.JSX.Element => (
    <line x1={0} x2={width} y1={y(ms)} y2={y(ms)} className="stroke-edge" strokeDasharray="3 4" />
  );
  return (
    <svg width={width} height={HEIGHT} role="img" aria-label={proof.verdict} data-testid="cuts-drawing">
      {rule(half)}
      {rule(-half)}
      <line x1={0} x2={width} y1={y(0)} y2={y(0)} className="stroke-soft/60" />
      <text x={width - 4} y={y(half) - 3} textAnchor="end" className="fill-soft text-[10px]">
        half a frame late
      </text>
      <text x={width - 4} y={y(-half) + 11} textAnchor="end" className="fill-soft text-[10px]">
        early
      </text>
      {proof.cuts.map((cut) => {
        const at = cut.frame / framesPerSecond(rate);
        const wrong = cut.why === 'another picture' || (cut.found !== null && cut.found !== cut.frame);
        const unseen = cut.why === 'alike';
        const far = cut.errorMs ?? 0;
        const says = unseen
          ? 'pictures on both sides are alike'
          : cut.found === null
            ? 'another picture stands there'
            : `${far.toFixed(1)} ms ${far < 0 ? 'early' : 'late'}`;
        return (
          <g
            key={cut.number}
            className={wrong ? 'fill-coral stroke-coral' : unseen ? 'fill-soft/50 stroke-soft/50' : 'fill-spruce stroke-spruce'}
            onClick={() => onGo(at)}
            data-wrong={wrong}
          >
            <line
              x1={x(at)}
              x2={x(at)}
              y1={y(0)}
              y2={y(wrong ? BEYOND * half * Math.sign(far || 1) : far)}
              strokeWidth={wrong ? 2.5 : 1.6}
            />
            <circle cx={x(at)} cy={y(wrong ? BEYOND * half * Math.sign(far || 1) : far)} r={wrong ? 3.5 : 2.2} stroke="none" />
            <title>{`cut ${cut.number}, ${clock(at)}: ${says}`}</title>
          </g>
        );
      })}
      {proof.sound.map(({ at, lateMs }) =>
        lateMs === null ? null : (
          <rect
            key={at}
            x={x(at) - 2}
            y={y(lateMs) - 2}
            width={4}
            height={4}
            className="fill-gold"
            transform={`rotate(45 ${x(at)} ${y(lateMs)})`}
          >
            <title>{`sound at ${clock(at)}: ${lateMs.toFixed(2)} ms ${lateMs < 0 ? 'early' : 'late'}`}</title>
          </rect>
        ),
      )}
    </svg>
  );
}
