import { useEffect, useRef } from 'react';
import { abilityColor } from '../../src/draw/palette.js';
import { wordSeconds } from '../../src/draw/timeline/ticks.js';
import type { Seen } from '../../src/recording/moment.js';
import { mainReason, wordReason } from '../../src/report/reasons.js';
import { lastUse, timingRows } from '../model/chosen.js';
import { paletteNow, useModel } from './use.js';

const round = (value: number) => Math.round(value * 100) / 100;

/** Whether each ability may start, or why not; what runs; all pools. */
export function NowPart() {
  const model = useModel();
  const one = model.now;
  const members = model.timeline.members;
  return (
    <section className="now" aria-label="Now">
      {members.length > 1 && (
        <div className="members" role="tablist" aria-label="Whom it is about">
          {members.map(({ id, name }) => (
            <button
              key={id}
              type="button"
              role="tab"
              aria-selected={name === model.member}
              onClick={() => model.select(name)}
            >
              {name}
            </button>
          ))}
        </div>
      )}
      {one ? <Member one={one} /> : <p className="quiet">{model.member} is not there in this tick.</p>}
    </section>
  );
}

function Member({ one }: { one: Seen }) {
  const model = useModel();
  const { readout, plan } = one;
  const lanes = plan.names.lane.flatMap((lane) => {
    const ability = readout.ability(lane);
    return ability === null ? [] : [{ lane, ability, phase: readout.phase(lane), opens: readout.opens(lane) }];
  });
  return (
    <>
      <p className="doing">
        <b>{one.name}</b> {readout.stance}
        {readout.loadout !== null && `, loadout ${readout.loadout}`}, at {round(readout.x)}, {round(readout.y)}
        {plan.view === 'open' && `, ${round(readout.z)}`}
        {lanes.map(({ lane, ability, phase, opens }) => (
          <span key={lane} className="runs">
            {ability}
            {phase !== null && ` · ${phase}`}
            {opens.length > 0 && <small> open to {opens.join(', ')}</small>}
          </span>
        ))}
      </p>
      {plan.names.pool.map((pool) => {
        const { min, max } = readout.poolLimits(pool);
        const value = readout.pool(pool);
        return (
          <div key={pool} className="pool">
            <span>{pool}</span>
            <meter min={min} max={max} value={value} aria-label={pool} />
            <span>
              {round(value)} of {round(max)}
            </span>
          </div>
        );
      })}
      <ul className="abilities" aria-label="Abilities">
        {plan.abilities.map(({ name, index, laneAt }) => {
          const runs = readout.isRunning(name);
          const refused = one.refusals.some(({ ability }) => ability === name);
          const reasons = runs ? [] : one.explain(name).reasons;
          const main = mainReason(reasons);
          const state = runs ? 'runs' : main === null ? 'may' : 'not';
          return (
            <li key={name} className={`${state}${name === model.ability ? ' chosen' : ''}`} data-lane={laneAt}>
              <button
                className="row"
                type="button"
                onClick={() => (state === 'not' ? model.ask(name) : model.choose(name))}
              >
                <i style={{ background: abilityColor(index, paletteNow()) }} />
                <b title={name}>{name}</b>
                <span>
                  {runs ? 'runs' : main === null ? 'may start' : wordReason(main)}
                  {reasons.length > 1 && ` (+${reasons.length - 1})`}
                  {refused && <em> refused now</em>}
                </span>
              </button>
              {name === model.why?.ability ? (
                <WhyBox />
              ) : (
                name === model.ability && <ChosenBox ability={name} one={one} />
              )}
            </li>
          );
        })}
      </ul>
    </>
  );
}

/** A box that comes into sight when it is about something else. */
function useShown(about: unknown) {
  const box = useRef<HTMLDivElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what it is about is why it is looked for
  useEffect(() => {
    box.current?.scrollIntoView({ block: 'nearest' });
  }, [about]);
  return box;
}

/** When the ability that was chosen does what, and what became of its last use. */
function ChosenBox({ ability, one }: { ability: string; one: Seen }) {
  const model = useModel();
  const box = useShown(ability);
  return (
    <div ref={box} className="use">
      <p>
        <b>{ability}</b> {lastUse(model, ability)}
        <button type="button" aria-label="Choose nothing" onClick={() => model.choose(null)}>
          ×
        </button>
      </p>
      <dl>
        {timingRows(one.plan, ability).map(([what, value]) => (
          <div key={what}>
            <dt>{what}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
    </div>
  );
}

/** Every reason against an ability, where it stands, what it rests on, and when it next could. */
function WhyBox() {
  const model = useModel();
  const { why } = model;
  const box = useShown(why);
  if (!why) return null;
  const next = nextMay(model.ticks, model.tick, why.ability, model.member);
  return (
    <div ref={box} className="why" role="status">
      <p>
        <b>
          {why.refused
            ? `${why.ability} was refused`
            : why.may
              ? `${why.ability} may start`
              : `${why.ability} could not have started`}
        </b>
        {' at '}
        {wordSeconds(why.tick, model.ticks.rate)}
        <button type="button" aria-label="Close" onClick={() => model.closeWhy()}>
          ×
        </button>
      </p>
      <ul>
        {why.reasons.map(({ text, place, path, line, operands }) => (
          <li key={text + path}>
            {text}
            {operands.length > 0 && (
              <small>
                {' '}
                (
                {operands
                  .map((one) => `${one.text} was ${typeof one.value === 'number' ? round(one.value) : one.value}`)
                  .join(', ')}
                )
              </small>
            )}
            <code>{place ? `${place.file}:${place.line}  ${short(line ?? path)}` : path}</code>
          </li>
        ))}
      </ul>
      {!why.may && (
        <p className="quiet">
          {next === null
            ? 'In what was recorded after it, it could not start again.'
            : `It could have started ${wordSeconds(next - why.tick, model.ticks.rate)} later.`}{' '}
          {next !== null && (
            <button type="button" onClick={() => model.goTo(next)}>
              go there
            </button>
          )}
        </p>
      )}
    </div>
  );
}

function short(line: string): string {
  return line.length > 140 ? `${line.slice(0, 139)}…` : line;
}

/** So far ahead is looked. */
const AHEAD = 20;

function nextMay(
  ticks: {
    rate: number;
    last: number;
    at(tick: number): { members: readonly { name: string; may(ability: string): boolean }[] };
  },
  from: number,
  ability: string,
  member: string,
): number | null {
  const until = Math.min(ticks.last, from + AHEAD * ticks.rate);
  for (let tick = from + 1; tick <= until; tick++)
    if (
      ticks
        .at(tick)
        .members.find(({ name }) => name === member)
        ?.may(ability)
    )
      return tick;
  return null;
}
