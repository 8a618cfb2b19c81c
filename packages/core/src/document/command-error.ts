import { Refusal } from '../refusal/refusal.ts';
/** An edit that cannot be done. The message is a sentence for the editor: what is wrong and what to do. */
export class CommandError extends Refusal {}
