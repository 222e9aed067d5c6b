export type { FindTargets } from '../strikes/gather.js';
export type { Volume } from '../strikes/volume.js';
export type { Outcome } from './apply-blow.js';
export { Arena, type ArenaOptions, type MemberOptions } from './arena.js';
export { ArenaTape, type SavedArenaTape } from './arena-tape.js';
export type { ArenaEvent } from './events.js';
export { Member } from './member.js';
export {
  type Act,
  checkOpponent,
  compileOpponent,
  type Opponent,
  OpponentError,
  type OpponentSource,
} from './opponent.js';
export { wordMeeting } from './word-meeting.js';
