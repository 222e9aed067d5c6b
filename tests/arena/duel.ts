import { Arena, type MemberOptions } from '../../src/arena/index.js';
import { flatGround, type Plan, type World } from '../../src/index.js';
import { plan } from '../support.js';

/** What all fighters of these tests share: a jab of 4, with 3 ticks of windup, 2 active and 4 of recovery. */
export const FIGHTER = `
loggia: 1
name: Pell
pools: { grit: { max: 20 }, wind: { max: 10 } }
inputs:
  move: { stick: { left: KeyA, right: KeyD } }
  gaff: { button: KeyJ }
  brace: { button: KeyK }
kinds: [blunt, spark]
events: [struck, armoured, blocked, parried, guardBroken, hit, hitBlocked, hitParried, clashed]
hurt: { pool: grit }
stances:
  stand: { when: grounded }
  fall: {}
abilities:
  flinch:
    start: { event: struck }
    breaks: [all, flinch]
    walk: { speed: 0, brake: 0 }
    end: timeIn(flinch) >= struck.stun
`;
export const jab = (more = '', strike = '{ box: [1, 0.6], at: [0.8, 1.2], damage: 4, kind: blunt, stun: 10f }') => `
  jab:
    start: { press: gaff }
    steer: 0
    phases:
      - { name: windup, for: 3f }
      - { name: active, for: 2f, strike: ${strike} }
      - { name: recovery, for: 4f }
${more}`;
export const JAB = jab();

/** Pell at 0, facing right, and a sentry at 1.2, facing left, of the same moveset unless it has one of its own. */
export function duel(
  pell: string | Plan,
  sentry: string | Plan = pell,
  more: MemberOptions & { apart?: number; world?: World } = {},
) {
  const { apart = 1.2, world = flatGround(), ...options } = more;
  const make = (text: string | Plan) => (typeof text === 'string' ? plan(text) : text);
  const arena = new Arena({ world });
  const one = make(pell);
  const a = arena.add('pell', one);
  const b = arena.add('sentry', sentry === pell ? one : make(sentry), { at: [apart, 0], facing: -1, ...options });
  return { arena, pell: a.character, sentry: b.character };
}

/** Ticks so often; what happened between members, in words short enough to compare. */
export function ticks(arena: Arena, count = 1): string[] {
  const told: string[] = [];
  for (let i = 0; i < count; i++) {
    arena.tick();
    for (const e of arena.events)
      told.push(e.kind === 'blow' ? `${i} ${e.by} ${e.to} ${e.outcome} ${e.damage}` : `${i} clash ${e.by} ${e.to}`);
  }
  return told;
}
