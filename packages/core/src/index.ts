// What pages, the server, the command line and the painter use of the core, each by name.
export { isRefusal, Refusal } from './refusal/refusal.ts';
export { clock, shortClock } from './time/clock.ts';
export { cutFrame, frameAt, frameTime } from './time/frames.ts';
export { FRAME_RATES, type FrameRate, framesPerSecond, rateLabel, sameRate } from './time/rate.ts';
export { onceFor } from './lists/once-for.ts';
export { type Band, BANDS, nearestAccent } from './music/accents.ts';
export {
  arrangedLength,
  LONGEST_FADE_S,
  SHORTEST_ARRANGED_S,
  type SongPiece,
  toMontageTime,
  toSongTime,
  trimPieces,
} from './music/arrangement.ts';
export { detectHeard, detectIn, type Detection, detectRange } from './music/detect.ts';
export { type HeardSong, listen } from './music/heard-song.ts';
export type { DetectedBeat } from './music/placed-beats.ts';
export type { Reading } from './music/readings.ts';
export { OnsetMeter, onsetStrength } from './music/onset-strength.ts';
export { outlineScale } from './music/outline-scale.ts';
export { peaks, type Peaks } from './music/peaks.ts';
export { moveJoin, type Proposal, shorten, type SongMap } from './music/shortening.ts';
export { ANALYSIS_RATE, mixDown, SONG_RATE } from './music/signal.ts';
export { drawnToOnsets, steadyLateness, type Tap, type Tapping, tappingOf, tapTime } from './music/taps.ts';
export { type Lesson, teach } from './music/teaching.ts';
export { middleTempo, tempoCurve } from './music/tempo.ts';
export { stretchTime } from './music/time-stretch.ts';
export type { TempoHint } from './music/track-beats.ts';
export { isInShape, ownView, reshaped, type ShapeView } from './document/reshaped.ts';
export { clipLength, footageItem, stretchesOf, UNDESCRIBED, WHOLE_CLIP } from './document/footage-item.ts';
export { carryForward, changeBetween, type MontageChange, takeBack } from './document/montage-change.ts';
export {
  type Effect,
  type Fade,
  type EffectSound,
  emptyMontage,
  type FootageItem,
  type Framing,
  type Letterbox,
  type LevelPoint,
  type Look,
  type Mark,
  type Moment,
  type Montage,
  type Move,
  type Passage,
  type MoveRule,
  type PegRule,
  type Section,
  type Select,
  type Shape,
  type Shot,
  type ShotLook,
  type Span,
  type Title,
  type Transition,
} from './document/montage.ts';
export { MontageFormatError, readMontage } from './document/read-montage.ts';
export { LONGEST_SECTION_NAME } from './document/section-name.ts';
export { barsAround, frame, type Framed, type Rect } from './geometry/framing.ts';
export { covering, framingScale, placeInView, showsEdge } from './geometry/view.ts';
export { type OtherShape, otherShapes } from './geometry/other-shapes.ts';
export { proposeShape } from './geometry/propose-shape.ts';
export { beatsBetween, placedBeats } from './marks/beats-on.ts';
export { doubtfulMarks } from './marks/doubtful.ts';
export { accentFloorOf, marksInUse, pulse } from './marks/in-use.ts';
export { MARK_KINDS, type MarkKind, MARKS } from './marks/kinds/all.ts';
export { LONGEST_LABEL, type MarkTap } from './marks/mark-commands.ts';
export type { Marking } from './marks/marking.ts';
export { placedMark, type PlacedMark, placedMarks } from './marks/placed-marks.ts';
export { isInSection, sectionStretch, sectionStretches } from './song/sections.ts';
export { bestHits } from './footage/best-hits.ts';
export { recounted } from './footage/recounted.ts';
export { characterOf, type ClipSummary, differentMoments, stretchesByChanges, stretchesByHits } from './footage/clip-summary.ts';
export { countingRate } from './footage/counting-rate.ts';
export type { HitReason, ProposedHit } from './footage/hits.ts';
export {
  ALL_FOOTAGE,
  type FootageOrder,
  type FootageSieve,
  type KnownOfFile,
  movedTo,
  siftFootage,
  usesOf,
} from './footage/sift-footage.ts';
export { findTransients } from './footage/transients.ts';
export { type LookedAt, offsetFor } from './score/lines-in-sight.ts';
export { barAndBeat, BARS_A_LINE, type BarsALine, layLines, type Line, nearestMark } from './score/lines.ts';
export { marksOfSlot } from './score/mark-weight.ts';
export { handlesOf, type PlacedShot, sourceFrame } from './score/placed-shot.ts';
export { onFrame, SPEED_LIMITS, speedsOf } from './score/retime.ts';
export { overAt, oversAt, type PlacedPeg, scoreOf, shownAt, type Slot, slotAt, slotFrom, slotOf } from './score/score.ts';
export { slotEnergies, songEnergy } from './score/slot-energy.ts';
export { pegAtTime, pegChanges } from './pegs/commands.ts';
export { marksByRule, placesByRule, ruleFor, ruleLabel } from './pegs/places.ts';
export { OFFERED_RULES } from './pegs/rules/all.ts';
export { type HangPlan, type HangWish, markInSlot, planHang, type Remedy } from './shots/hang-shot.ts';
export type { RunStretch } from './shots/lay-run.ts';
export { type CutPlace, markBeside, nearestFreeMark } from './shots/trim-commands.ts';
export { clipLooks } from './fill/clip-looks.ts';
export { candidateKey, FILL_DEFAULTS, type FillKnowledge, type FillOptions, type SelectLook } from './fill/fill-options.ts';
export { fill, type FillCounts, type FillPlan, planFill, takePlan } from './fill/fill.ts';
export { knowledgeFrom, type SeenMaterial, withFoundHits } from './fill/seen-material.ts';
export { type GapRemedy, gapsOf, withGapsClosed } from './fill/gaps.ts';
export { FILL_ORDERS, type FillOrder, ORDERS } from './fill/orders/all.ts';
export { planSettle, SETTLE_DEFAULTS, type SettledCut, type SettleOptions, type SettlePlan } from './settle/settle.ts';
export { varietyOf } from './settle/variety.ts';
export { ENTRANCE_KINDS, type EntranceKind, ENTRANCES } from './finish/entrances/all.ts';
export { copyTitle } from './finish/copy-title.ts';
export { type Dressing, DressingError, readDressing } from './finish/dressings/dressing.ts';
export { DRESSINGS } from './finish/dressings/all.ts';
export { dressingOf } from './finish/dressings/dressing-of.ts';
export { type CarriedOver, carriedOver, type CarryWish, type LeftOver } from './carry/carry-over.ts';
export { firstCut, type FirstCut, type FirstCutWish } from './first-cut/first-cut.ts';
export { paceFor } from './first-cut/pegs-at-pace.ts';
export { LONGEST_NOTE, readTemplate, type ShippedTemplate, TemplateError, templateOf, writeTemplate } from './templates/template.ts';
export type { Matching, Reach } from './carry/match-stretches.ts';
export type { Stretch } from './carry/stretches.ts';
export { FACE_NAMES, type FaceName, FACES, hasWeights, ships, USUAL_FACE } from './finish/faces/faces.ts';
export { type Behind, hardToRead } from './finish/readability.ts';
export { comesOver } from './finish/over-commands.ts';
export { spokenCues, titlesFromCues } from './finish/titles-from-cues.ts';
export { CURVE_NAMES, CURVES, type Curve } from './finish/effects/curves.ts';
export { EFFECT_KINDS, type EffectKind, EFFECTS } from './finish/effects/all.ts';
export { EFFECT_TRIGGERS, type EffectTrigger, triggerTitle } from './finish/effects/triggers.ts';
export { type Camera, type Firing, firingsOf, repeatsAt } from './finish/firings.ts';
export { tooManyFlashes } from './finish/flashes.ts';
export { placedLetterboxes } from './finish/letterbox.ts';
export { LOOK_KINDS, type LookKind, LOOKS } from './finish/looks/all.ts';
export type { ColourCube, LookParts } from './finish/looks/look-parts.ts';
export { type ColourStats, colourStats, matchingLooks } from './finish/matching-looks.ts';
export type { At, Between } from './finish/moment-at.ts';
export { EASE_NAMES, type Ease, EASES } from './finish/motion/eases.ts';
export type { View } from './finish/motion/view.ts';
export { type Way, WAY_NAMES, WAYS } from './finish/motion/ways.ts';
export type { AskedMove } from './finish/move-commands.ts';
export { MOVE_KINDS, type MoveKind, MOVES } from './finish/moves/all.ts';
export { movesOf, type PlacedMove, placedMoves, standingView, viewAt } from './finish/placed-moves.ts';
export { placedSpan } from './finish/placed-span.ts';
export { type PlacedTransition, transitionAt, transitionsOf, USUAL_WAY } from './finish/placed-transitions.ts';
export { tableNamed, tableText } from './finish/tables.ts';
export { type PlacedTitle, placedTitles, LINE_STEP, TITLE_COLOURS, titleColour, titlesAt } from './finish/titles.ts';
export { placedLooks } from './finish/worn-looks.ts';
export { TRANSITION_KINDS, type TransitionKind, TRANSITIONS } from './finish/transitions/all.ts';
export { type DrawLayer, type DrawList, drawListAt, framedAt, type PictureItem, picturesIn } from './picture/draw-list.ts';
export { layerOf, layersAt, seenFrom, undressed } from './picture/layers.ts';
export { JOIN_FADE_S, pieceLevel, playedPieces } from './sound/joins.ts';
export { CLIP_FADE_S, clipLevel, type ClipSound, isSongShaped, mixPlan, type MixPlan, songLevel } from './sound/mix-plan.ts';
export { levelAlong, levelLines, type PlacedLevel } from './sound/level-line.ts';
export { LIMIT_BLOCK, limitingGains, turnDown } from './sound/limiting.ts';
export { kWeighting, type Loudness, LoudnessMeter, loudnessOf } from './sound/loudness.ts';
export { type ComparedLine, compareVersions } from './report/compare-versions.ts';
export { syncReport, type SyncReport } from './report/sync-report.ts';
export { DEFAULT_PRESET, FILM_PRESETS, filmPresetNamed, type FilmPresetName } from './formats/films/all.ts';
export { type FilmPreset, QUALITIES, type Quality } from './formats/films/film-preset.ts';
export { type CutFormat } from './formats/cuts/cut-format.ts';
export { CUT_FORMATS, type CutFormatName, readCut } from './formats/cuts/all.ts';
export { findMedia, type FoundCut } from './formats/cuts/found-media.ts';
export { type ReadCut } from './formats/cuts/read-cut.ts';
export { type Chapter, chaptersOf } from './films/chapters.ts';
export {
  askedFilm,
  type AskedFilm,
  filmSize,
  type FilmWish,
  LOUDNESS_TARGETS,
  qualityOf,
  sizeInShape,
  USUAL_WISH,
} from './films/film-wish.ts';
export { fileName, filmName, shapeLabel } from './films/film-name.ts';
export { type FilmReport, reportHtml } from './films/report-html.ts';
export { foretell, type Foretold } from './films/foretell.ts';
export { findCuts, PRINT_BYTES, PRINT_SIDE } from './films/prints.ts';
export { type Proof, proofOf, type ProvenCut, type ProvenSound, READ_BACK_FROM } from './films/proof.ts';
export { soundPlace } from './films/sound-place.ts';
export { lostIn, MARKS_FORMATS, type MarksFormat, readMarks, writeMarks, WRITTEN_FORMATS } from './formats/marks/all.ts';
export { writeBeatText } from './formats/marks/text.ts';
export { CubeError, readCube } from './formats/cube.ts';
export { reportCsv } from './formats/report-csv.ts';
export { readWavHeader, WAV_CHANNELS, WAV_FULL_SCALE, WAV_HEADER_BYTES, WAV_SAMPLE_BYTES, wavHeader, wavSamples } from './formats/wav.ts';
export type { Command } from './commands/all.ts';
export { carryOut } from './commands/carry-out.ts';
export { amend, edit, type History, redo, startHistory, step, undo } from './commands/history.ts';
export { type Outside, titlesBroughtAlong, whatFallsOutside } from './commands/outside.ts';
