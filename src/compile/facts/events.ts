import type { Message } from '../../moveset/messages.js';
import type { Add, FactRows, FactTools } from './fact.js';
import { AXES, nowAt, numberAt, truthAt } from './fact.js';

export function eventFacts(add: Add, tools: FactTools): void {
  tools.names.event.forEach((name, i) => {
    const at = tools.layout.events[i];
    add(`event(${name})`, () => nowAt(at));
    valueFacts(add, name, tools.messages[i], at + 1);
  });
}

/** Values of a message, the first of which stands at `from`. */
export function valueFacts(add: Add, name: string, { values }: Message, from: number): void {
  for (const value of values) {
    const at = from + value.at;
    const key = `${name}.${value.name}`;
    if (value.type === 'number') add(key, () => numberAt(at));
    else if (value.type === 'time') add(key, () => ({ type: 'time', operand: { at, run: null, constant: false } }));
    else if (value.type === 'word') value.words.forEach((word, i) => void add(`${key}(${word})`, () => truthAt(at, i)));
    else
      AXES.forEach((axis, i) => {
        add(`${key}.${axis}`, () => numberAt(at + i));
      });
  }
}

/** In an ability that a message has started: its values as they were then. */
export function heardFacts(add: Add, { names, layout, messages }: FactTools): void {
  names.ability.forEach((ability, i) => {
    for (const { event, at } of layout.abilities[i].heard) {
      const message = messages.find(({ name }) => name === event);
      if (message) valueFacts((key, make) => add(`${ability}:${key}`, make), event, message, at + 1);
    }
  });
}

/** What the reference says of them. */
export const EVENTS_DOCS: FactRows = {
  Events: [['event({event})', 'condition', 'The event was received in this tick.']],
  'Values of messages': [
    ['{event}.{value}', 'number', 'A number that the message carries.', '0 before the first'],
    ['{event}.{value}', 'time', 'A time that the message carries.', '0s before the first'],
    ['{event}.{value}({word})', 'condition', 'The word that the message carries is this one.'],
    ['{event}.{value}.x', 'number', 'A point or a direction that the message carries.', '0 before the first'],
    ['{event}.{value}.y', 'number', 'A point or a direction that the message carries.', '0 before the first'],
    ['{event}.{value}.z', 'number', 'A point or a direction that the message carries.', '0 before the first'],
  ],
};
