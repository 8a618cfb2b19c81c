import { HEARD, actionsIn, type Action } from '../interface/action.ts';
import { player } from './player.ts';
import { shuttle } from './shuttle.ts';

const play = actionsIn(HEARD, 'Play');

export const playbackActions: readonly Action[] = [
  play('play', 'Play or pause', 'space', () => player.toggle()),
  play('shuttle-on', 'Play on, faster with each press', 'l', () => shuttle(1)),
  play('shuttle-stop', 'Stop', 'k', () => shuttle(0)),
  play('shuttle-back', 'Run back, faster with each press', 'j', () => shuttle(-1)),
  play('start', 'To the start', 'home', () => player.seek(0)),
  play('end', 'To the end', 'end', () => player.seek(player.state.length)),
  play('half-speed', 'Half or full speed, at the same pitch', 'h', () => player.setSpeed(player.state.speed === 1 ? 0.5 : 1)),
  play('clicks', 'Clicks on the marks', 'c', () => player.setClicks(!player.state.clicks)),
];
