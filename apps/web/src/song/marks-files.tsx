import { useRef } from 'react';
import { toast } from 'sonner';
import {
  lostIn,
  MARKS_FORMATS,
  WRITTEN_FORMATS,
  marksInUse,
  writeMarks,
  type Marking,
  type MarksFormat,
  type Montage,
} from '@bluster/core';
import { Button } from '../interface/button.tsx';
import { saveFile } from '../interface/save-file.ts';
import { Menu, MenuItem } from '../interface/menu.tsx';
import { montageNow } from '../document/editor.ts';
import { takeMarksFile } from '../marking/take-marks-file.ts';

/** The marks of a montage as files hold them: song seconds, accents as far as they are in use. */
function markingOf(montage: Montage): Marking {
  return {
    marks: marksInUse(montage).map(({ kind, time, label, band, strength, confidence }) => ({
      kind,
      time,
      ...(label === undefined ? {} : { label }),
      ...(band ? { band } : {}),
      ...(strength === undefined ? {} : { strength }),
      ...(confidence === undefined ? {} : { confidence }),
    })),
    sections: (montage.song?.sections ?? []).map(({ id: _, ...section }) => section),
    length: montage.song?.length ?? 0,
  };
}

/** Reads and writes marks as files. */
export function MarksFiles(): React.JSX.Element {
  const input = useRef<HTMLInputElement>(null);
  const write = (format: MarksFormat): void => {
    const montage = montageNow();
    const marking = markingOf(montage);
    const title = (montage.song?.name ?? 'marks').replace(/\.[^.]+$/, '');
    const data = writeMarks(format, marking, title);
    saveFile(`${title}.${MARKS_FORMATS[format].endings[0]}`, data as BlobPart);
    const lost = lostIn(format, marking);
    if (lost) toast(lost);
  };
  return (
    <div className="flex items-center justify-between">
      Marks as files
      <span className="flex gap-1.5">
        <Button onClick={() => input.current?.click()} hint="Text, labels, CSV, JAMS, MIDI or JSON; timed lyrics and captions make cues">
          Read…
        </Button>
        <Menu trigger={<Button>Write…</Button>}>
          {WRITTEN_FORMATS.map((format) => (
            <MenuItem key={format} onSelect={() => write(format)}>
              {MARKS_FORMATS[format].title}
            </MenuItem>
          ))}
        </Menu>
      </span>
      <input
        ref={input}
        type="file"
        accept=".txt,.tsv,.csv,.jams,.json,.mid,.midi,.lrc,.srt,.vtt"
        aria-label="File of marks"
        data-testid="marks-file"
        className="sr-only"
        onChange={(e) => {
          const file = e.target.files?.[0];
          if (file) void takeMarksFile(file);
          e.target.value = '';
        }}
      />
    </div>
  );
}
