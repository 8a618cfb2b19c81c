import { readMontage, type Montage } from '@bluster/core';

/** As many are remembered as a network can lose in a row while somebody goes on editing. */
const MOST_REMEMBERED = 50;

/** Versions that were sent and not answered. One of them may be what is stored, though nobody could be told so. */
let sent: readonly Montage[] = [];

/** Remembers a version that is sent. */
export function sending(montage: Montage): void {
  sent = [...sent.slice(1 - MOST_REMEMBERED), montage];
}

/** An answer has come: what was sent before it is settled. */
export function answered(): void {
  sent = [];
}

/** Whether a stored version is one that was sent from here, whose answer was lost on its way. */
export function cameFromHere(stored: Montage): boolean {
  // The server keeps documents with their values in the schema's order; so they are compared in that.
  const text = JSON.stringify(readMontage(stored));
  return sent.some((montage) => JSON.stringify(readMontage(montage)) === text);
}
