import { type ReactNode, useEffect, useState } from 'react';
import { pressKey } from './keys.js';
import { sentenceOf } from './model/grounds.js';
import type { Lab } from './model/lab.js';
import type { Model } from './model/model.js';
import { openRun } from './model/own-files.js';
import { BarPart } from './parts/bar-part.js';
import { HelpPart } from './parts/help-part.js';
import { KeysPart, LabPart } from './parts/lab-part.js';
import { NowPart } from './parts/now-part.js';
import { PicturesPart } from './parts/pictures-part.js';
import { StagePart } from './parts/stage-part.js';
import { StoryPart } from './parts/story-part.js';
import { TextPart } from './parts/text-part.js';
import { TimelinePart } from './parts/timeline-part.js';
import { ModelContext } from './parts/use.js';

const PANES = ['now', 'story', 'chart', 'table'] as const;

/** The whole page: the same for a report, in the lab, and beside a running game. A run from a file can be looked at meanwhile. */
export function App(props: { model: Model; lab?: Lab; children?: ReactNode }) {
  const { model } = props;
  const [opened, setOpened] = useState<Model | null>(null);
  const shown = opened ?? model;
  const open = (file: File | undefined) => {
    if (!file) return;
    openRun(file).then(
      (made) => {
        model.pause();
        setOpened(made);
      },
      (error) => shown.tell(`${file.name} cannot be opened: ${sentenceOf(error)}`),
    );
  };
  useEffect(() => {
    // Text that is dragged about in the editor is the editor's.
    const isFile = (event: DragEvent) => event.dataTransfer?.types.includes('Files') === true;
    const over = (event: DragEvent) => isFile(event) && event.preventDefault();
    const drop = (event: DragEvent) => {
      if (!isFile(event)) return;
      event.preventDefault();
      event.stopPropagation();
      open(event.dataTransfer?.files[0]);
    };
    window.addEventListener('dragover', over, true);
    window.addEventListener('drop', drop, true);
    return () => {
      window.removeEventListener('dragover', over, true);
      window.removeEventListener('drop', drop, true);
    };
  });
  if (!opened) return <Page {...props} open={open} />;
  return (
    <Page key={opened.serial} model={opened} open={open}>
      <div className="lab" role="toolbar" aria-label="Run from a file">
        <button type="button" onClick={() => setOpened(null)}>
          back to {model.title}
        </button>
      </div>
    </Page>
  );
}

interface PageProps {
  readonly model: Model;
  readonly lab?: Lab;
  readonly children?: ReactNode;
  open(file: File | undefined): void;
}

function Page({ model, lab, children, open }: PageProps) {
  const [help, setHelp] = useState(false);
  const [pane, setPane] = useState<(typeof PANES)[number]>('now');
  useEffect(() => {
    const press = (event: KeyboardEvent) => pressKey(event, model, () => setHelp(true));
    // What is written into the page is not for the game.
    const writes = () => model.setWriting(document.activeElement?.closest('.cm-editor, input, select, dialog') != null);
    window.addEventListener('keydown', press);
    document.addEventListener('focusin', writes);
    document.addEventListener('focusout', writes);
    let asked = 0;
    let before = performance.now();
    const frame = (now: number) => {
      model.advance(Math.min(0.1, (now - before) / 1000));
      before = now;
      asked = requestAnimationFrame(frame);
    };
    asked = requestAnimationFrame(frame);
    return () => {
      window.removeEventListener('keydown', press);
      document.removeEventListener('focusin', writes);
      document.removeEventListener('focusout', writes);
      cancelAnimationFrame(asked);
    };
  }, [model]);
  return (
    <ModelContext value={model}>
      <BarPart help={() => setHelp(true)} open={open} />
      {lab ? <LabPart lab={lab}>{children}</LabPart> : children}
      <main>
        <div className="left">
          <StagePart />
          <KeysPart />
          <TimelinePart />
        </div>
        <div className="right">
          <TextPart />
          <div className="lower">
            <div className="tabs" role="tablist" aria-label="Panes">
              {PANES.map((one) => (
                <button key={one} type="button" role="tab" aria-selected={one === pane} onClick={() => setPane(one)}>
                  {one}
                </button>
              ))}
            </div>
            <div key={pane} className="pane">
              {pane === 'now' && <NowPart />}
              {pane === 'story' && <StoryPart />}
              {(pane === 'chart' || pane === 'table') && <PicturesPart which={pane} />}
            </div>
          </div>
        </div>
      </main>
      <HelpPart open={help} close={() => setHelp(false)} />
    </ModelContext>
  );
}
