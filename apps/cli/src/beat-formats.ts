import { MARKS_FORMATS, WRITTEN_FORMATS, type MarksFormat } from '@bluster/core/formats/marks/all';

const ONE_BEAT = { marks: [{ kind: 'beat', time: 0 }], sections: [] } as const;

/** The formats in which beats can be printed: those that can be written and hold beats. */
export const BEAT_FORMATS: readonly MarksFormat[] = WRITTEN_FORMATS.filter((format) => !MARKS_FORMATS[format].loses?.of(ONE_BEAT));
