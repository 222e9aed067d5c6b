import { createRoot } from 'react-dom/client';
import type { Shown } from '../src/draw/report-page.js';
import { Recording } from '../src/recording/index.js';
import { fromBase64 } from '../src/report/base64.js';
import { CHANNEL } from '../src/show/messages.js';
import { App } from './app.js';
import { BrowserDisk } from './model/browser-disk.js';
import { LabDisk } from './model/disk.js';
import { sentenceOf } from './model/grounds.js';
import { Lab } from './model/lab.js';
import { Model } from './model/model.js';
import { StreamChannel } from './model/stream-channel.js';
import { GamesPart } from './parts/games-part.js';
import { StaticPart } from './parts/static-part.js';
import './viewer.css';

/** What a page has in it: a run, and what is said of it. */
async function open(): Promise<void> {
  const host = document.getElementById('viewer') as HTMLElement;
  const asked = document.getElementById('lab') ?? document.getElementById('games');
  if (asked) {
    const { token, streams } = JSON.parse(asked.textContent ?? '{}') as { token: string; streams?: boolean };
    if (asked.id === 'games') {
      const at = streams ? '/lab' : '/__loggia';
      const channel = streams ? new StreamChannel(at, token) : new BroadcastChannel(CHANNEL);
      createRoot(host).render(<GamesPart disk={new LabDisk(token, at)} channel={channel} />);
      return;
    }
    try {
      const lab = await Lab.open(new LabDisk(token, '/lab'));
      document.title = `${lab.project.file} · lab`;
      createRoot(host).render(<App model={lab.model} lab={lab} />);
    } catch (error) {
      host.textContent = `The lab cannot open: ${sentenceOf(error)}`;
    }
    return;
  }
  const bundle = document.getElementById('bundle')?.textContent;
  if (bundle) {
    const disk = new BrowserDisk(JSON.parse(new TextDecoder().decode(fromBase64(bundle))));
    createRoot(host).render(<StaticPart first={disk} />);
    return;
  }
  const run = document.getElementById('run')?.textContent;
  if (!run) {
    host.textContent = 'There is no run in this page. "loggia report" writes one.';
    return;
  }
  const shown: Shown = JSON.parse(
    new TextDecoder().decode(fromBase64((document.getElementById('shown')?.textContent ?? 'e30=').trim())),
  );
  try {
    const recording = await Recording.fromFile(fromBase64(run), { megabytes: 1000 });
    const model = new Model(recording, shown.title);
    model.flags = shown.failures ?? [];
    const tick = /#tick=(\d+)/.exec(location.hash);
    model.goTo(tick ? Number(tick[1]) : (model.flags[0]?.tick ?? Math.max(0, recording.first)));
    model.showSome();
    createRoot(host).render(<App model={model} />);
  } catch (error) {
    host.textContent = `This run cannot be shown: ${sentenceOf(error)}`;
  }
}

open();
