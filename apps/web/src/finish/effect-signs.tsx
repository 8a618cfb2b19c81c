import { Bell, Moon, Scan, Sun, Vibrate, type LucideIcon } from 'lucide-react';
import type { EffectKind, EffectTrigger } from '@bluster/core';

/** What an effect is called, its sign, its colour, and the key that lays it at the playhead. */
export const EFFECT_SIGNS: Readonly<Record<EffectKind, { name: string; Sign: LucideIcon; colour: string; hotkey: string; says: string }>> =
  {
    flash: { name: 'flash', Sign: Sun, colour: 'text-gold-text', hotkey: 'F', says: 'The picture flares up to white and comes back' },
    dip: { name: 'dip', Sign: Moon, colour: 'text-ink', hotkey: 'D', says: 'The picture goes dark and comes back' },
    punch: { name: 'punch-in', Sign: Scan, colour: 'text-spruce', hotkey: 'G', says: 'The picture jumps nearer and settles' },
    shake: { name: 'shake', Sign: Vibrate, colour: 'text-coral-text', hotkey: 'V', says: 'The picture is shaken and settles' },
    sound: { name: 'sound', Sign: Bell, colour: 'text-ink', hotkey: 'B', says: 'A sound effect is heard, its hit on the mark' },
  };

export const EFFECT_KINDS = Object.keys(EFFECT_SIGNS) as EffectKind[];

/** What an effect fires on, in words. */
export const TRIGGERS: readonly (readonly [EffectTrigger, string])[] = [
  ['beat', 'beat'],
  ['bar', 'bar'],
  ['drop', 'drop'],
  ['cut', 'cut'],
  ['low', 'low accent'],
  ['mid', 'mid accent'],
  ['high', 'high accent'],
  ['voice', 'voice accent'],
  ['cue', 'cue'],
];

/** Lengths in beats that are offered. */
export const BEAT_LENGTHS: readonly (readonly [string, string])[] = [
  ['0.25', '¼'],
  ['0.5', '½'],
  ['1', '1'],
  ['2', '2'],
  ['4', '4'],
];
