import type { ClipSummary, FrameRate, Montage, ProposedHit } from '@bluster/core';

export interface ProjectSummary {
  readonly id: string;
  readonly name: string;
  readonly updatedAt: number;
  readonly demo: boolean;
  readonly coverAssetId: string | null;
  readonly length: number;
  readonly slots: number;
  readonly filled: number;
}

export interface DeletedProject {
  readonly id: string;
  readonly name: string;
  readonly deletedAt: number;
  readonly goneAt: number;
}

export interface Project {
  readonly id: string;
  readonly name: string;
}

export interface SavedMontage {
  readonly revision: number;
  readonly savedAt: number;
  readonly document: Montage;
}

export interface Filmstrip {
  readonly pictures: number;
  readonly columns: number;
  readonly width: number;
  readonly height: number;
  readonly every: number;
}

export interface Asset {
  readonly id: string;
  readonly kind: 'song' | 'clip' | 'photo' | 'sound';
  readonly name: string;
  readonly size: number;
  readonly state: 'working' | 'ready' | 'failed';
  readonly problem: string | null;
  readonly createdAt: number;
  /** still to be taken into the montage */
  readonly awaits: boolean;
  readonly info: {
    readonly length?: number;
    readonly width?: number;
    readonly height?: number;
    readonly rate?: FrameRate;
    readonly frames?: number;
    readonly hasSound?: boolean;
    readonly codec?: string;
    readonly strip?: Filmstrip;
    readonly hit?: number;
    readonly takenAt?: number;
    readonly looked?: boolean;
    readonly damaged?: boolean;
    readonly focus?: { readonly x: number; readonly y: number };
    readonly place?: number;
    readonly movement?: number;
    readonly brightness?: number;
    readonly sharpness?: number;
    readonly colours?: readonly string[];
    readonly hits?: readonly ProposedHit[];
    readonly changes?: number;
  };
}

/** What was seen and heard in a clip. */
export interface ClipLook extends ClipSummary {
  /** loudness, 50 values a second, 0 to 1 */
  readonly soundCurve: readonly number[];
}

export interface Job {
  readonly id: string;
  readonly kind: 'prepare' | 'proxy' | 'export';
  readonly state: 'queued' | 'running' | 'done' | 'failed' | 'cancelled';
  readonly progress: number;
  readonly problem: string | null;
  readonly payload: { readonly assetId?: string; readonly revision?: number };
  readonly result: Record<string, number> | null;
  readonly createdAt: number;
  readonly startedAt: number | null;
  readonly endedAt: number | null;
}

export interface KeptVersion {
  readonly id: string;
  readonly revision: number;
  readonly savedAt: number;
  readonly reason: string;
}
