import { MARKS, plainKindOf } from '../../marks/kinds/all.ts';
import { jsonObject, marksFormat } from './marks-format.ts';
import { BANDS } from '../../music/accents.ts';
import { countBeats, inTime, MarkingError, type FileMark, type FileSection, type Marking, type ReadMarking } from '../../marks/marking.ts';
import { sectionName } from '../../document/section-name.ts';

/** One observation of a JAMS annotation. */
interface Observation {
  readonly time: number;
  readonly duration: number;
  readonly value: unknown;
  readonly confidence: number | null;
}
interface Annotation {
  readonly namespace: string;
  readonly data: readonly Observation[];
}

const CUE = 'cue: ';

function isRecord(value: unknown): value is Readonly<Record<string, unknown>> {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}

function observations(annotation: unknown): Annotation | null {
  if (!isRecord(annotation) || typeof annotation.namespace !== 'string' || !Array.isArray(annotation.data)) return null;
  const data = annotation.data.map((o: unknown, i): Observation => {
    if (!isRecord(o) || typeof o.time !== 'number' || !(o.time >= 0))
      throw new MarkingError(`Observation ${i + 1} of the "${String(annotation.namespace)}" annotation has no time in seconds.`);
    return {
      time: o.time,
      duration: Number(o.duration) || 0,
      value: o.value,
      confidence: typeof o.confidence === 'number' ? o.confidence : null,
    };
  });
  return { namespace: annotation.namespace, data };
}

/**
 * Reads JAMS, the JSON annotated music specification (E. Humphrey et al., "JAMS: a JSON annotated music specification
 * for reproducible MIR research", ISMIR 2014): beats (value 1 is a downbeat), onsets, segments and tags.
 * @throws MarkingError where there is nothing to read
 */
export function readJams(text: string): ReadMarking {
  let file: unknown;
  try {
    file = JSON.parse(text);
  } catch (error) {
    throw new MarkingError(`This JAMS file is damaged: ${(error as Error).message}.`);
  }
  if (!isRecord(file) || !Array.isArray(file.annotations)) throw new MarkingError('This is not a JAMS file: it has no annotations.');
  const marks: FileMark[] = [];
  const sections: FileSection[] = [];
  const passed = new Set<string>();
  for (const entry of file.annotations as unknown[]) {
    const annotation = observations(entry);
    if (!annotation) continue;
    for (const { time, value, confidence } of annotation.data) {
      const sure = confidence === null ? {} : { confidence: Math.min(1, Math.max(0, confidence)) };
      switch (annotation.namespace) {
        case 'beat':
          marks.push({ kind: value === 1 ? 'bar' : 'beat', time, ...sure });
          break;
        case 'onset': {
          const band = BANDS.find((b) => b === value);
          marks.push({ kind: 'accent', time, ...(band ? { band } : {}), ...(confidence === null ? {} : { strength: sure.confidence! }) });
          break;
        }
        case 'segment_open': {
          const name = sectionName(value);
          if (name) sections.push({ from: time, name });
          else passed.add(`segment "${String(value)}"`);
          break;
        }
        case 'tag_open': {
          const label = String(value);
          if (plainKindOf(label)) marks.push({ kind: plainKindOf(label)!, time });
          else marks.push({ kind: 'cue', time, label: label.startsWith(CUE) ? label.slice(CUE.length) : label });
          break;
        }
        default:
          passed.add(annotation.namespace);
      }
    }
  }
  if (marks.length + sections.length === 0) throw new MarkingError('There are no beats, onsets, segments or tags in this JAMS file.');
  const about =
    isRecord(file.file_metadata) && typeof file.file_metadata.duration === 'number' ? { length: file.file_metadata.duration } : {};
  return { marks: inTime(marks), sections, ...about, notes: passed.size > 0 ? [`Passed over: ${[...passed].join(', ')}.`] : [] };
}

/** Writes JAMS 0.3.4. Nothing is lost. */
export function writeJams({ marks, sections, length }: Marking, title = ''): string {
  const end = length ?? Math.max(0, ...marks.map((m) => m.time), ...sections.map((s) => s.from));
  const annotation = (namespace: string, data: readonly Observation[]): object | null =>
    data.length === 0
      ? null
      : {
          namespace,
          data,
          annotation_metadata: { annotation_tools: 'Bluster', data_source: 'program' },
          sandbox: {},
          time: 0,
          duration: end,
        };
  const of = (kind: FileMark['kind']): FileMark[] => inTime(marks).filter((m) => m.kind === kind);
  const tags = inTime(marks).filter((m) => plainKindOf(m.kind) !== undefined || MARKS[m.kind].worded);
  const annotations = [
    annotation(
      'beat',
      countBeats(marks).map(({ mark, bar, place }) => ({
        time: mark.time,
        duration: 0,
        value: bar === 0 ? 0 : place,
        confidence: mark.confidence ?? null,
      })),
    ),
    annotation(
      'onset',
      of('accent').map((m) => ({ time: m.time, duration: 0, value: m.band ?? null, confidence: m.strength ?? null })),
    ),
    annotation(
      'segment_open',
      sections.map((s, i) => ({
        time: s.from,
        duration: Math.max(0, (sections[i + 1]?.from ?? end) - s.from),
        value: s.name,
        confidence: null,
      })),
    ),
    annotation(
      'tag_open',
      tags.map((m) => ({ time: m.time, duration: 0, value: MARKS[m.kind].worded ? `${CUE}${m.label ?? ''}` : m.kind, confidence: null })),
    ),
  ].filter((a) => a !== null);
  return `${JSON.stringify({ file_metadata: { title, artist: '', release: '', duration: end, identifiers: {}, jams_version: '0.3.4' }, annotations, sandbox: {} }, null, 1)}\n`;
}

export const jams = marksFormat({
  title: 'JAMS',
  endings: ['jams'],
  sniff: (file) => 'annotations' in (jsonObject(file.text) ?? {}),
  read: (file) => readJams(file.text),
  write: writeJams,
  loses: null,
});
