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
import type { EffectKind } from '@bluster/core';

/** The sign of an effect and its colour. */
export const EFFECT_SIGNS: Readonly<Record<EffectKind, { readonly Sign: LucideIcon; readonly colour: string }>> = {
  flash: { Sign: Sun, colour: 'text-gold-text' },
  dip: { Sign: Moon, colour: 'text-ink' },
  punch: { Sign: Scan, colour: 'text-spruce' },
  shake: { Sign: Vibrate, colour: 'text-coral-text' },
  surge: { Sign: Telescope, colour: 'text-spruce' },
  blur: { Sign: CloudFog, colour: 'text-soft' },
  drain: { Sign: Droplet, colour: 'text-spruce' },
  strobe: { Sign: AudioLines, colour: 'text-gold-text' },
  mirror: { Sign: FlipHorizontal, colour: 'text-ink' },
  freeze: { Sign: Pause, colour: 'text-coral-text' },
  stutter: { Sign: Repeat, colour: 'text-coral-text' },
  sound: { Sign: Bell, colour: 'text-ink' },
};

/** Lengths in beats that are offered. */
export const BEAT_LENGTHS: readonly (readonly [string, string])[] = [
  ['0.25', '¼'],
  ['0.5', '½'],
  ['1', '1'],
  ['2', '2'],
  ['4', '4'],
];
