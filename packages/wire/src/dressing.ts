import type { Dressing } from '@bluster/core';
import { IsInt, IsObject, IsUUID } from 'class-validator';

/** Asks for a dressing to be kept; one of the same name makes room. */
export class KeepDressingRequest {
  /** it is checked whole by core's schema */
  @IsObject() readonly dressing: object;
}

/** A dressing that is kept, for every project. */
export class DressingAnswer {
  @IsUUID() readonly id: string;
  /** ms since 1970 */
  @IsInt() readonly savedAt: number;
  @IsObject() readonly dressing: Dressing;
}
