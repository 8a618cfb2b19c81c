import { Download } from 'lucide-react';
import { CUT_FORMATS, type CutFormat, type Montage } from '@bluster/core';
import { Button } from '../interface/button.tsx';
import { saveFile } from '../interface/save-file.ts';

/** A few of many words. */
function inWords(parts: readonly string[]): string {
  if (parts.length < 2) return parts.join('');
  return `${parts.slice(0, -1).join(', ')} and ${parts.at(-1)!}`;
}

/** The cut for other programs, in open formats: each says beforehand what it leaves out. */
export function OtherWays({ montage, name }: { montage: Montage; name: string }): React.JSX.Element {
  return (
    <section aria-labelledby="other-ways" className="space-y-2">
      <h2 id="other-ways" className="font-semibold">
        Other ways out
      </h2>
      <ul className="space-y-1.5">
        {Object.values<CutFormat>(CUT_FORMATS).map((format) => {
          const lost = format.loses(montage);
          return (
            <li key={format.ending} className="flex items-start gap-2.5 text-[12px]">
              <Button
                className="w-[150px] shrink-0 justify-start!"
                hint={format.says}
                disabled={!montage.song}
                onClick={() => saveFile(`${name || 'montage'}.${format.ending}`, format.write(montage, { name }), format.type)}
              >
                <Download size={13} /> {format.title}
              </Button>
              <span className="pt-1 text-soft">{lost.length === 0 ? 'all of it goes along' : `leaves out ${inWords(lost)}`}</span>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
