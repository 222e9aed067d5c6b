import { Recording } from '../../src/recording/index.js';
import { Model } from './model.js';

/** Lets somebody choose files of theirs; none where they do not. */
export function chooseFile({ folder = false, accept = '' }: { folder?: boolean; accept?: string }): Promise<File[]> {
  return new Promise((done) => {
    const input = document.createElement('input');
    input.type = 'file';
    input.accept = accept;
    input.multiple = input.webkitdirectory = folder;
    input.onchange = () => done([...(input.files ?? [])]);
    input.oncancel = () => done([]);
    input.click();
  });
}

/** Gives somebody a file to keep. */
export function download(name: string, content: string | Uint8Array): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([content as BlobPart]));
  link.download = name.replace(/^.*\//, '');
  link.click();
  URL.revokeObjectURL(link.href);
}

/** The run that is shown as a file, as `loggia run --record` writes one. */
export async function saveRun(model: Model): Promise<void> {
  const bytes = await (model.made ?? model.recording).toFile();
  const name = model.title.replace(/[^\p{L}\p{N}]+/gu, '-').replace(/^-|-$/g, '');
  download(`${name === '' ? 'run' : name.slice(0, 80)}.jsonl.gz`, bytes);
}

/** A run from such a file, to be looked at. What is wrong with it is an error with a sentence. */
export async function openRun(file: File): Promise<Model> {
  const recording = await Recording.fromFile(new Uint8Array(await file.arrayBuffer()), { megabytes: 1000 });
  const model = new Model(recording, file.name);
  model.goTo(Math.max(0, recording.first));
  model.showSome();
  return model;
}
