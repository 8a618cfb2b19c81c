// Property tests try the same cases in every run, so that a run can be repeated; BLUSTER_SEED=random tries others.
import fc from 'fast-check';

const { BLUSTER_SEED: wish = '20261125' } = process.env;
const seed = wish === 'random' ? Date.now() ^ (Math.random() * 2 ** 31) : Number(wish);
fc.configureGlobal({ ...fc.readConfigureGlobal(), seed });
