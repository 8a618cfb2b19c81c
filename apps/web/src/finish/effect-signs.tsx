import {
  AudioLines,
  Bell,
  CloudFog,
  Droplet,
  FlipHorizontal,
  Moon,
  Pause,
  Repeat,
  Scan,
  Sun,
  Telescope,
  Vibrate,
  type LucideIcon,
} from 'lucide-react';
import * as drawn from 'lucide';
import type { EffectKind } from '@bluster/core';

interface EffectSign {
  readonly Sign: LucideIcon;
  /** the same for the lines, where there are hundreds */
  readonly drawn: drawn.IconNode;
  /** a colour of the theme */
  readonly ink: string;
}

/** The sign of an effect and its colour. */
export const EFFECT_SIGNS: Readonly<Record<EffectKind, EffectSign>> = {
  flash: { Sign: Sun, drawn: drawn.Sun, ink: 'gold-text' },
  dip: { Sign: Moon, drawn: drawn.Moon, ink: 'ink' },
  punch: { Sign: Scan, drawn: drawn.Scan, ink: 'spruce' },
  shake: { Sign: Vibrate, drawn: drawn.Vibrate, ink: 'coral-text' },
  surge: { Sign: Telescope, drawn: drawn.Telescope, ink: 'spruce' },
  blur: { Sign: CloudFog, drawn: drawn.CloudFog, ink: 'soft' },
  drain: { Sign: Droplet, drawn: drawn.Droplet, ink: 'spruce' },
  strobe: { Sign: AudioLines, drawn: drawn.AudioLines, ink: 'gold-text' },
  mirror: { Sign: FlipHorizontal, drawn: drawn.FlipHorizontal, ink: 'ink' },
  freeze: { Sign: Pause, drawn: drawn.Pause, ink: 'coral-text' },
  stutter: { Sign: Repeat, drawn: drawn.Repeat, ink: 'coral-text' },
  sound: { Sign: Bell, drawn: drawn.Bell, ink: 'ink' },
};

/** Lengths in beats that are offered. */
export const BEAT_LENGTHS: readonly (readonly [string, string])[] = [
  ['0.25', '¼'],
  ['0.5', '½'],
  ['1', '1'],
  ['2', '2'],
  ['4', '4'],
];
