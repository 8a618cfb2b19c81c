import type { IconNode } from 'lucide';
import { useTheme } from '../interface/theme.ts';
import { themeColours } from './colours.ts';

/** Steps of strength that are told apart: each is a picture of its own. */
const STEPS = 8;

const pictures = new Map<IconNode, Map<string, string>>();

/** A sign as a picture for a background, `url(…)`. */
function pictureOf(drawn: IconNode, colour: string, opacity: number): string {
  const own = pictures.get(drawn) ?? new Map<string, string>();
  pictures.set(drawn, own);
  const key = `${colour} ${opacity}`;
  let url = own.get(key);
  if (!url) {
    const shapes = drawn.map(([tag, attributes]) => {
      const written = Object.entries(attributes).map(([name, value]) => `${name}="${String(value)}"`);
      return `<${tag} ${written.join(' ')}/>`;
    });
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="24" height="24" viewBox="0 0 24 24" fill="none" stroke="${colour}" stroke-opacity="${opacity}" stroke-width="2" stroke-linecap="round" stroke-linejoin="round">${shapes.join('')}</svg>`;
    own.set(key, (url = `url("data:image/svg+xml,${encodeURIComponent(svg)}")`));
  }
  return url;
}

interface SignImageProps {
  readonly drawn: IconNode;
  /** pixels */
  readonly size: number;
  /** a colour of the theme by its name */
  readonly ink: string;
  /** 0 to 1 */
  readonly strength?: number;
  /** what it says; without, it is for the eye alone */
  readonly label?: string;
}

/**
 * A sign among hundreds on the lines. It is a picture in the background and not an element of its own with shapes in it: those each
 * cost the browser a layer's worth of thinking in every frame that is scrolled.
 */
export function SignImage({ drawn, size, ink, strength = 1, label }: SignImageProps): React.JSX.Element {
  useTheme(); // another theme, other colours
  return (
    <span
      className="inline-block bg-contain bg-no-repeat"
      style={{
        width: size,
        height: size,
        backgroundImage: pictureOf(drawn, themeColours()(ink), Math.round(strength * STEPS) / STEPS),
      }}
      {...(label ? { role: 'img', 'aria-label': label } : { 'aria-hidden': true })}
    />
  );
}
