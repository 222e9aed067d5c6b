import { isSkipped, MOST_BYTES, MOST_FILES, NAMES, scenarioIn } from '../../src/format/project-files.js';
import { type Disk, DiskFault, type Project } from './disk.js';
import { chooseFile, download } from './own-files.js';

/** What a static lab has inside it. */
export interface Bundle {
  readonly file: string;
  readonly files: Readonly<Record<string, string>>;
}

interface Handles {
  showDirectoryPicker?(options: { mode: 'readwrite' }): Promise<FileSystemDirectoryHandle>;
}

/** The files of a page without a server: those that are in it, or a folder that somebody opened. */
export class BrowserDisk implements Disk {
  private files: Map<string, string>;
  private readonly handles = new Map<string, FileSystemFileHandle>();

  constructor(
    bundle: Bundle,
    private file = bundle.file,
  ) {
    this.files = new Map(Object.entries(bundle.files));
  }

  async project(): Promise<Project> {
    const scenarios = [...this.files].flatMap(([file, text]) => scenarioIn(file, text) ?? []);
    return { file: this.file, scenarios };
  }

  async read(file: string): Promise<string> {
    const text = this.files.get(file);
    if (text === undefined) throw new DiskFault(`${file} is not here: open a folder that holds it.`);
    return text;
  }

  async write(file: string, text: string): Promise<{ changed?: string }> {
    const handle = this.handles.get(file);
    if (handle) {
      const stream = await handle.createWritable();
      await stream.write(text);
      await stream.close();
    } else download(file, text);
    this.files.set(file, text);
    return {};
  }

  async create(file: string, text: string): Promise<void> {
    if (this.files.has(file)) throw new DiskFault(`${file} is there already; choose another name.`);
    download(file, text);
    this.files.set(file, text);
  }

  async program(name: string): Promise<string> {
    throw new DiskFault(`A page without a server has no ${name}: "loggia lab" has it, where the project has.`);
  }

  async stamps(files: readonly string[]): Promise<Readonly<Record<string, number>>> {
    return Object.fromEntries(files.map((file) => [file, 0]));
  }

  /** Another disk, with the files of a folder that somebody chooses. */
  async open(): Promise<BrowserDisk> {
    const files: Record<string, string> = {};
    const handles = new Map<string, FileSystemFileHandle>();
    const pick = (window as unknown as Handles).showDirectoryPicker;
    if (pick) await gather(await pick.call(window, { mode: 'readwrite' }), '', files, handles);
    else for (const [name, file] of await chooseFiles()) files[name] = await file.text();
    const [first] = movesetsIn(Object.entries(files));
    if (first === undefined) throw new DiskFault('There is no moveset in this folder.');
    const disk = new BrowserDisk({ file: first, files });
    for (const [name, handle] of handles) disk.handles.set(name, handle);
    return disk;
  }

  /** All movesets that are here. */
  get movesets(): string[] {
    return movesetsIn([...this.files]);
  }

  /** The moveset that is opened. */
  get chosen(): string {
    return this.file;
  }

  /** The same files, with another moveset to open; where there is none of that name, as they are. */
  choosing(file: string): BrowserDisk {
    if (!this.files.has(file)) return this;
    const other = new BrowserDisk({ file, files: {} });
    other.files = this.files;
    for (const [name, handle] of this.handles) other.handles.set(name, handle);
    return other;
  }
}

function movesetsIn(files: readonly (readonly [name: string, text: string])[]): string[] {
  return files.filter(([, text]) => /^(stances|include):/m.test(text) && !/^part:/m.test(text)).map(([name]) => name);
}

async function gather(
  folder: FileSystemDirectoryHandle,
  path: string,
  files: Record<string, string>,
  handles: Map<string, FileSystemFileHandle>,
): Promise<void> {
  for await (const [name, handle] of folder.entries()) {
    if (Object.keys(files).length >= MOST_FILES) return;
    if (handle.kind === 'directory') {
      if (!isSkipped(name)) await gather(handle as FileSystemDirectoryHandle, `${path}${name}/`, files, handles);
    } else if (NAMES.test(name)) {
      const file = await (handle as FileSystemFileHandle).getFile();
      if (file.size > MOST_BYTES) continue;
      files[path + name] = await file.text();
      handles.set(path + name, handle as FileSystemFileHandle);
    }
  }
}

/** Where no folder can be opened to be written: its files, to be read only. */
async function chooseFiles(): Promise<[string, File][]> {
  const all = (await chooseFile({ folder: true })).filter(({ name, size }) => NAMES.test(name) && size <= MOST_BYTES);
  return all.slice(0, MOST_FILES).map((file) => [file.webkitRelativePath.replace(/^[^/]*\//, '') || file.name, file]);
}
