// What goes over the wire between server and pages, each by name.
export {
  ASSET_KINDS,
  ASSET_STATES,
  AssetAnswer,
  type AssetInfo,
  type AssetKind,
  type AssetState,
  type ClipLook,
  type Filmstrip,
} from './asset.ts';
export { BundleQuery, OpenedBundleAnswer } from './bundle.ts';
export type { Changes } from './changes.ts';
export { DressingAnswer, KeepDressingRequest } from './dressing.ts';
export { ExportRequest, LoudnessAnswer, REPORT_FORMS, type ReportForm, ReportQuery } from './export.ts';
export { ExportResult, JOB_KINDS, JOB_STATES, JobAnswer, type JobKind, type JobState, ProofAnswer } from './job.ts';
export { KeepVersionRequest, KeptVersionAnswer, LastGoodAnswer, SavedAnswer, SavedMontageAnswer, SaveMontageRequest } from './montage.ts';
export type { ProblemAnswer } from './problem.ts';
export { DeletedProjectAnswer, ProjectAnswer, ProjectNameRequest, ProjectSummaryAnswer } from './project.ts';
export { type AssetPart, ROUTES } from './routes.ts';
export { KeepTemplateRequest, TemplateAnswer } from './template.ts';
export { SHIPPED_SONG_ID, ShippedSongAnswer, TakeSongRequest } from './song.ts';
