import { ROUTES } from '@bluster/wire/routes';
import { useMemo, useState } from 'react';
import { useParams } from 'react-router';
import useSWR from 'swr';
import {
  carriedOver,
  carryOut,
  FILL_DEFAULTS,
  type FillOptions,
  isRefusal,
  readMontage,
  shortClock,
  type CarriedOver,
  type LeftOver,
  type Matching,
  type Montage,
  type Reach,
  type Stretch,
} from '@bluster/core';
import type { KeptVersionAnswer as KeptVersion } from '@bluster/wire';
import { fetchJson } from '../api/request.ts';
import { useEditor, useMontage } from '../document/editor.ts';
import { Button } from '../interface/button.tsx';
import { Choice } from '../interface/choice.tsx';
import { Dialog } from '../interface/dialog.tsx';
import { sayProblem } from '../interface/say-problem.ts';
import { useSize } from '../interface/use-size.ts';
import { CarryDrawing } from './carry-drawing.tsx';

const REACHES = [
  ['all', 'All of this song'],
  ['as-long', 'As long as it was'],
] as const;
/** So many things that find no place are named; the others are counted. */
const MOST_NAMED = 8;

const WHAT: Record<LeftOver['what'], string> = {
  shot: 'shot',
  cutaway: 'cutaway',
  cue: 'cue',
  effect: 'effect',
  title: 'title',
  look: 'look',
  fade: 'fade',
  letterbox: 'letterbox',
  level: 'level',
};

const counted = (n: number, one: string): string => `${n} ${one}${n === 1 ? '' : 's'}`;
const said = ({ name, from, bars }: Stretch): string =>
  `${name || 'all of it'} · ${shortClock(from)} · ${counted(Math.round(bars), 'bar')}`;

/** Empty slots take first what found no place of its own. */
function orderFor({ homeless }: CarriedOver): Pick<FillOptions, 'order' | 'picked'> {
  return homeless.length > 0 ? { order: 'picked', picked: homeless } : { order: 'story' };
}

/** Lays a montage that hung on another song over the one that is there: shown before and after, and taken as one step. */
export function CarryDialog({ earlier, onClose }: { earlier: Montage; onClose: () => void }): React.JSX.Element {
  const { projectId = '' } = useParams();
  const montage = useMontage();
  const [source, setSource] = useState(earlier);
  const [reach, setReach] = useState<Reach>('all');
  const [byHand, setByHand] = useState<Matching | null>(null);
  const [filling, setFilling] = useState(true);
  const [ref, { width }] = useSize<HTMLDivElement>();
  const answer = useMemo((): CarriedOver | string => {
    try {
      return carriedOver(source, montage, { reach, ...(byHand ? { matching: byHand } : {}) });
    } catch (problem) {
      if (!isRefusal(problem)) throw problem;
      return problem.message;
    }
  }, [source, montage, reach, byHand]);
  // What was matched last stays on the screen while nothing can be made of a choice.
  const [shown, setShown] = useState<CarriedOver | null>(null);
  if (typeof answer !== 'string' && answer !== shown) setShown(answer);
  const carried = typeof answer === 'string' ? null : answer;

  const take = (): void => {
    const done = useEditor.getState().runAll('Lay a montage over the song', (m) => {
      const laid = carryOut(m, { do: 'carryOver', source, wish: { reach, ...(byHand ? { matching: byHand } : {}) } });
      if (!carried || !filling || carried.counts.empty === 0 || m.footage.length === 0) return laid;
      return carryOut(laid, {
        do: 'fill',
        options: { ...FILL_DEFAULTS, ...orderFor(carried), scope: 'empty', tooShort: 'next', apart: 4 },
      });
    });
    if (done) onClose();
  };
  return (
    <Dialog open onClose={onClose} title="Lay the montage over this song" wide>
      <div className="flex flex-wrap items-center gap-3">
        <SourceChoice
          projectId={projectId}
          earlier={earlier}
          onChoose={(m) => {
            setSource(m);
            setByHand(null);
          }}
        />
        <Choice
          label="How much of this song"
          value={reach}
          options={REACHES}
          onChoose={(r) => {
            setReach(r);
            setByHand(null);
          }}
        />
      </div>
      <p className="mt-2 text-[12px] text-soft">
        Sections are matched by likeness and order. What hung on a bar and beat of a section hangs on that bar and beat again.
      </p>
      <div ref={ref} className="mt-3">
        {shown && <CarryDrawing source={source} carried={carried ?? shown} width={width} />}
      </div>
      {shown && shown.fresh.length > 0 && (
        <Matched
          old={shown.old}
          fresh={shown.fresh}
          matching={byHand ?? shown.matching}
          onChoose={(j, i) => setByHand((byHand ?? shown.matching).map((was, at) => (at === j ? i : was)))}
        />
      )}
      {typeof answer === 'string' ? (
        <p role="alert" className="mt-3 text-coral-text">
          {answer}
        </p>
      ) : (
        <Result carried={answer} />
      )}
      {carried && carried.counts.empty > 0 && montage.footage.length > 0 && (
        <label className="mt-2 flex items-center gap-1.5">
          <input type="checkbox" checked={filling} onChange={(e) => setFilling(e.target.checked)} className="accent-spruce" />
          Fill the {counted(carried.counts.empty, 'empty slot')}{' '}
          {carried.homeless.length > 0 ? 'with what finds no place' : 'from the footage, in story order'}
        </label>
      )}
      <p className="mt-4 flex justify-end gap-2">
        <Button onClick={onClose}>Not now</Button>
        <Button look="main" onClick={take} disabled={carried === null}>
          Lay it over
        </Button>
      </p>
    </Dialog>
  );
}

/** Which montage is laid over the song: the one that hung there before, or a version that was kept. */
function SourceChoice({
  projectId,
  earlier,
  onChoose,
}: {
  projectId: string;
  earlier: Montage;
  onChoose: (montage: Montage) => void;
}): React.JSX.Element | null {
  const path = ROUTES.versions(projectId);
  const { data: versions = [] } = useSWR<readonly KeptVersion[], Error>(path, fetchJson);
  if (versions.length === 0) return null;
  const choose = async (id: string): Promise<void> => {
    try {
      onChoose(id === '' ? earlier : readMontage(await fetchJson<unknown>(`${path}/${id}`)));
    } catch (problem) {
      sayProblem(problem);
    }
  };
  return (
    <label className="flex items-center gap-1.5">
      Montage
      <select
        className="max-w-[220px] rounded border border-edge bg-paper px-1.5 py-1"
        defaultValue=""
        onChange={(e) => void choose(e.target.value)}
      >
        <option value="">as it was on {earlier.song?.name}</option>
        {versions.map((v) => (
          <option key={v.id} value={v.id}>
            version “{v.reason}”
          </option>
        ))}
      </select>
    </label>
  );
}

interface MatchedProps {
  readonly old: readonly Stretch[];
  readonly fresh: readonly Stretch[];
  readonly matching: Matching;
  readonly onChoose: (fresh: number, old: number | null) => void;
}

/** Each section of the new song, and which one of the old it takes its cut from. */
function Matched({ old, fresh, matching, onChoose }: MatchedProps): React.JSX.Element {
  return (
    <ul className="mt-3 max-h-[168px] space-y-1 overflow-y-auto pr-1 text-[12.5px]" aria-label="Sections of the new song">
      {fresh.map((stretch, j) => (
        <li key={j} className="flex items-center gap-2">
          <span className="flex-1 truncate">{said(stretch)}</span>
          <span className="text-soft">cut like</span>
          <select
            aria-label={`${said(stretch)} is cut like`}
            className="w-[230px] rounded border border-edge bg-paper px-1.5 py-0.5"
            value={matching[j] ?? ''}
            onChange={(e) => onChoose(j, e.target.value === '' ? null : Number(e.target.value))}
          >
            {old.map((o, i) => (
              <option key={i} value={i}>
                {said(o)}
              </option>
            ))}
            <option value="">none</option>
          </select>
        </li>
      ))}
    </ul>
  );
}

/** What comes along and what does not, in words. */
function Result({ carried: { counts, left } }: { carried: CarriedOver }): React.JSX.Element {
  const parts = [
    counts.shots > 0 || counts.empty === 0
      ? `${counted(counts.shots, 'shot')} ${counts.shots === 1 ? 'comes' : 'come'} along`
      : `${counted(counts.pegs, 'cut')} ${counts.pegs === 1 ? 'comes' : 'come'} along`,
    ...(counts.slowed > 0
      ? [`${counts.slowed} of them ${counts.slowed === 1 ? 'runs' : 'run'} slower, to last as long as the bars do`]
      : []),
    ...(counts.empty > 0 ? [`${counted(counts.empty, 'slot')} ${counts.empty === 1 ? 'is' : 'are'} empty`] : []),
  ];
  return (
    <div className="mt-3 text-[12.5px]" data-testid="carry-result">
      <p role="status">{parts.join(' · ')}.</p>
      {left.length > 0 && (
        <details className="mt-1.5 rounded-md border border-gold/60 bg-cloth p-2">
          <summary>
            {counted(left.length, 'thing')} {left.length === 1 ? 'finds' : 'find'} no place, for {left.length === 1 ? 'its' : 'their'}{' '}
            section is shorter there or has none; the footage stays
          </summary>
          <ul className="mt-1 text-soft" aria-label="Finds no place">
            {left.slice(0, MOST_NAMED).map((l, i) => (
              <li key={i} className="truncate">
                {WHAT[l.what]} {l.name && `“${l.name}”`} at {shortClock(l.at)}
              </li>
            ))}
            {left.length > MOST_NAMED && <li>and {left.length - MOST_NAMED} more</li>}
          </ul>
        </details>
      )}
    </div>
  );
}
