import {
  FILM_PRESETS,
  FRAME_RATES,
  filmPresetNamed,
  LOUDNESS_TARGETS,
  QUALITIES,
  rateLabel,
  sameRate,
  type FilmPresetName,
  type Montage,
  type Quality,
} from '@bluster/core';
import { Chips } from '../interface/chips.tsx';
import { Choice } from '../interface/choice.tsx';
import { NumberField } from '../interface/number-field.tsx';
import { PanelRow } from '../interface/panel-row.tsx';
import { useMaking, type OfferedStretch } from './making.ts';

/** What most places that play films bring sound to, LUFS. */
const USUAL_TARGET = -14;
const SIDES = [480, 720, 1080, 2160] as const;

interface FilmChoiceProps {
  readonly montage: Montage;
  readonly stretches: readonly OfferedStretch[];
  readonly projectId: string;
  /** what it is called */
  readonly project: string;
}

/** How films are written: their kind, quality, stretch, size, rate and loudness, and what they are called. */
export function FilmChoice({ montage, stretches, projectId, project }: FilmChoiceProps): React.JSX.Element {
  const { preset, quality, stretch, loudness, side, rate, names } = useMaking();
  const { says, video, holds, sound } = filmPresetNamed(preset);
  const qualities = QUALITIES.filter((q) => video[q]);
  const { shape } = montage;
  return (
    <div className="space-y-2.5">
      <PanelRow label="Name">
        <input
          aria-label="Name of the film"
          maxLength={120}
          placeholder={project}
          value={names[projectId] ?? ''}
          onChange={(e) => useMaking.setState({ names: { ...names, [projectId]: e.target.value } })}
          className="w-full rounded border border-edge bg-paper px-1.5 py-1 placeholder:text-soft"
        />
      </PanelRow>
      <PanelRow label="Kind">
        <Chips
          label="Kind"
          value={preset}
          options={(Object.keys(FILM_PRESETS) as FilmPresetName[]).map((name) => [
            name,
            filmPresetNamed(name).title,
            filmPresetNamed(name).says,
          ])}
          onChoose={(value) => useMaking.setState({ preset: value })}
        />
      </PanelRow>
      <p className="pl-[84px] text-[12px] text-soft">{says}</p>
      {qualities.length > 1 && (
        <PanelRow label="Quality">
          <Choice<Quality>
            label="Quality"
            value={qualities.includes(quality) ? quality : 'good'}
            options={qualities.map((q) => [q, q])}
            onChoose={(value) => useMaking.setState({ quality: value })}
          />
        </PanelRow>
      )}
      {holds !== 'picture' && (
        <PanelRow label="Stretch">
          <Chips
            label="Stretch"
            value={stretches.some(({ key }) => key === stretch) ? stretch : 'all'}
            options={stretches.map(({ key, title }) => [key, title])}
            onChoose={(value) => useMaking.setState({ stretch: value })}
          />
        </PanelRow>
      )}
      {holds !== 'sound' && (
        <PanelRow label="Size">
          <select
            aria-label="Size"
            className="rounded border border-edge bg-paper px-1.5 py-1 text-[12px]"
            value={side ?? ''}
            onChange={(e) => useMaking.setState({ side: e.target.value ? Number(e.target.value) : null })}
          >
            <option value="">as the montage, {Math.min(shape.width, shape.height)}</option>
            {SIDES.filter((s) => s !== Math.min(shape.width, shape.height)).map((s) => (
              <option key={s} value={s}>
                {s} pixels on the shorter side
              </option>
            ))}
          </select>
          {holds !== 'picture' && (
            <select
              aria-label="Rate"
              className="ml-2 rounded border border-edge bg-paper px-1.5 py-1 text-[12px]"
              value={rate ? `${rate.num}/${rate.den}` : ''}
              onChange={(e) => {
                const [num, den] = e.target.value.split('/').map(Number);
                useMaking.setState({ rate: num && den ? { num, den } : null });
              }}
            >
              <option value="">{rateLabel(shape.rate)} frames a second</option>
              {FRAME_RATES.filter((r) => !sameRate(r, shape.rate)).map((r) => (
                <option key={rateLabel(r)} value={`${r.num}/${r.den}`}>
                  {rateLabel(r)}
                </option>
              ))}
            </select>
          )}
        </PanelRow>
      )}
      {sound.length > 0 && (
        <PanelRow label="Loudness">
          <Choice
            label="Loudness"
            value={loudness === null ? 'own' : 'target'}
            options={[
              ['own', 'as it is'],
              ['target', 'brought to'],
            ]}
            onChoose={(value) => useMaking.setState({ loudness: value === 'own' ? null : USUAL_TARGET })}
          />
          {loudness !== null && (
            <label className="ml-2 flex items-center gap-1 text-[12px] text-soft">
              <NumberField
                label="Loudness in LUFS"
                value={loudness}
                from={LOUDNESS_TARGETS.quietest}
                to={LOUDNESS_TARGETS.loudest}
                figures={3}
                onChange={(value) => useMaking.setState({ loudness: value })}
              />
              LUFS
            </label>
          )}
        </PanelRow>
      )}
    </div>
  );
}
