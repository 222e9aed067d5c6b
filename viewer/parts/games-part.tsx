import { useEffect, useRef, useState } from 'react';
import { App } from '../app.js';
import type { Disk } from '../model/disk.js';
import { saveTo } from '../model/lab.js';
import { Model } from '../model/model.js';
import { type Channel, type Game, Games, type Remote } from '../model/remote.js';
import { useModel } from './use.js';

/** Games of this development server, and the one that is looked at. */
export function GamesPart({ disk, channel }: { disk: Disk; channel: Channel }) {
  const [, setCount] = useState(0);
  const [fault, setFault] = useState('');
  const [model, setModel] = useState<Model | null>(null);
  const [watched, setWatched] = useState<Remote | null>(null);
  const games = useRef<Games | null>(null);
  games.current ??= new Games(channel, () => setCount((count) => count + 1));
  const { list } = games.current;

  /** A game is asked for once: its recording takes a while to come. */
  const looking = useRef(false);
  const look = async (game: Game) => {
    if (looking.current) return;
    looking.current = true;
    const remote = await (games.current as Games).watch(game);
    looking.current = false;
    if (typeof remote === 'string') {
      setFault(`${game.name} cannot be shown: ${remote}`);
      return;
    }
    watched?.stop();
    const made = new Model(remote.recording, game.name);
    made.begin(remote, game.name);
    made.save = () => saveTo(disk, made);
    remote.replaced = () => made.begin(remote, game.name);
    setFault('');
    setWatched(remote);
    setModel(made);
  };

  // The only game is the one that is meant; one that was loaded again is followed.
  useEffect(() => {
    const isThere = watched !== null && list.some(({ id }) => id === watched.game.id);
    const next = isThere
      ? undefined
      : (list.find(({ name }) => name === watched?.game.name) ?? (watched ? undefined : list[0]));
    if (next && fault === '') look(next);
  });
  useEffect(() => {
    const leave = () => watched?.stop();
    window.addEventListener('pagehide', leave);
    return () => window.removeEventListener('pagehide', leave);
  }, [watched]);

  if (!model)
    return (
      <div className="waiting">
        <h1>Loggia</h1>
        {fault !== '' && <p role="alert">{fault}</p>}
        {list.length === 0 ? (
          <>
            <p>
              No game is shown yet. Open your game in another tab of this browser, and show a character or an arena:
            </p>
            <pre>{"import { show } from 'loggia/show';\n\nshow(pell, 'Pell');"}</pre>
          </>
        ) : (
          <GameList list={list} look={look} />
        )}
      </div>
    );
  return (
    <App key={model.serial} model={model}>
      <GameBar game={watched as Remote} list={list} look={look} fault={fault} />
    </App>
  );
}

function GameBar({
  game: { game, canContinue },
  list,
  look,
  fault,
}: {
  game: Remote;
  list: readonly Game[];
  look: (game: Game) => void;
  fault: string;
}) {
  const model = useModel();
  const isGone = !list.some(({ id }) => id === game.id);
  return (
    <div className="lab" role="toolbar" aria-label="Game">
      <GameList list={list} look={look} now={game.id} />
      <button type="button" disabled={!canContinue || isGone || model.playing} onClick={() => model.continueHere()}>
        the game goes on from here
      </button>
      <span className="quiet">
        {isGone
          ? 'The game is gone; what was recorded can still be looked at.'
          : game.canPause
            ? 'The game stands still while you look back.'
            : 'The game goes on while you look back.'}
      </span>
      {fault !== '' && <span role="alert">{fault}</span>}
    </div>
  );
}

function GameList({
  list,
  look,
  now,
}: {
  list: readonly Game[];
  look: (game: Game) => void;
  now?: string | undefined;
}) {
  return (
    <span className="games">
      {list.map((game) => (
        <button key={game.id} type="button" aria-pressed={game.id === now} onClick={() => look(game)}>
          {game.name}
        </button>
      ))}
    </span>
  );
}
