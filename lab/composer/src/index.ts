export * from './composition.ts';
export * from './compose.ts';
export * from './perform.ts';
export { STYLES } from './styles.ts';
export * from './beat-measures.ts';
export * from './unmeasured.ts';
export { Chance } from './chance.ts';
