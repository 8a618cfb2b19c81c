import { Download, Package } from 'lucide-react';
import { ROUTES } from '@bluster/wire/routes';
import { CUT_FORMATS, type CutFormat, type Montage } from '@bluster/core';
import { Button } from '../interface/button.tsx';
import { saveAddress, saveFile } from '../interface/save-file.ts';
import { sayProblem } from '../interface/say-problem.ts';
import { saved } from './start-films.ts';

/** What is on the screen is what is in it. */
async function saveFrom(address: string): Promise<void> {
  try {
    await saved();
    saveAddress(address);
  } catch (error) {
    sayProblem(error);
  }
}

/** A few of many words. */
function inWords(parts: readonly string[]): string {
  if (parts.length < 2) return parts.join('');
  return `${parts.slice(0, -1).join(', ')} and ${parts.at(-1)!}`;
}

interface OtherWaysProps {
  readonly projectId: string;
  readonly montage: Montage;
  readonly name: string;
}

/** The whole project as one file. */
const BUNDLES = [
  { media: 'with', title: 'Bundle', says: 'the whole project with its song and footage, for keeping or for another computer' },
  { media: 'without', title: 'Bundle, no media', says: 'the project alone; files are taken by their names where it is opened' },
] as const;

/** The cut for other programs, in open formats, and the project as one file: each says beforehand what it leaves out. */
export function OtherWays({ projectId, montage, name }: OtherWaysProps): React.JSX.Element {
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
              <span className="pt-1 text-soft">
                {!montage.song ? 'when there is a song' : lost.length === 0 ? 'all of it goes along' : `leaves out ${inWords(lost)}`}
              </span>
            </li>
          );
        })}
        <li className="flex items-start gap-2.5 text-[12px]">
          <Button
            className="w-[150px] shrink-0 justify-start!"
            disabled={!montage.song}
            onClick={() => void saveFrom(ROUTES.otioz(projectId))}
          >
            <Package size={13} /> With its media
          </Button>
          <span className="pt-1 text-soft">the same OpenTimelineIO and the files that it shows, as one file (.otioz)</span>
        </li>
        {BUNDLES.map(({ media, title, says }) => (
          <li key={media} className="flex items-start gap-2.5 text-[12px]">
            <Button className="w-[150px] shrink-0 justify-start!" onClick={() => void saveFrom(ROUTES.bundle(projectId, media))}>
              <Package size={13} /> {title}
            </Button>
            <span className="pt-1 text-soft">{says}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
