import { useMemo } from 'react';
import { wordMeeting } from '../../src/arena/word-meeting.js';
import { type Ticks, wordSeconds } from '../../src/draw/timeline/ticks.js';
import { wordEvent } from '../../src/report/story.js';
import { useModel } from './use.js';

/** So many lines at most. */
const MOST = 2000;

interface Line {
  readonly tick: number;
  readonly text: string;
  readonly member: string | null;
  /** What was refused. */
  readonly ability: string | null;
}

/** What happened, in words: the same that the timeline draws. */
export function StoryPart() {
  const model = useModel();
  const { ticks, tick } = model;
  const lines = useMemo(() => linesOf(ticks), [ticks, ticks.last]);
  return (
    <ol className="story" aria-label="What happened">
      {lines.map(({ tick: at, text, member, ability }, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: lines have no other name, and stay where they are
        <li key={i} className={at === tick ? 'here' : ''}>
          <button
            type="button"
            onClick={() => {
              if (member !== null) model.member = member;
              model.pause();
              model.goTo(at);
              if (ability !== null) model.ask(ability);
            }}
          >
            <time>{wordSeconds(at, ticks.rate)}</time> {text}
          </button>
        </li>
      ))}
      {lines.length === MOST && <li className="quiet">Only the last {MOST} lines are shown.</li>}
    </ol>
  );
}

function linesOf(ticks: Ticks): Line[] {
  const lines: Line[] = [];
  for (let tick = Math.max(0, ticks.first); tick <= ticks.last; tick++) {
    const then = ticks.at(tick);
    const several = then.members.length > 1;
    for (const one of [...then.members, ...then.departed])
      for (const event of one.readout.events)
        lines.push({
          tick,
          text: (several ? `${one.name}: ` : '') + wordEvent(event),
          member: one.name,
          ability: event.kind === 'refused' ? event.ability : null,
        });
    for (const meeting of then.events) lines.push({ tick, text: wordMeeting(meeting), member: null, ability: null });
  }
  return lines.slice(-MOST);
}
