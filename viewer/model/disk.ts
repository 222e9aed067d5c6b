import type { ScenarioFile } from '../../src/format/project-files.js';

/** What the lab's server does for the page, or something like it. */
export interface Disk {
  /** The text of a file, or a fault in a sentence. */
  read(file: string): Promise<string>;
  /** Writes a file; where somebody else has changed it meanwhile, gives what is there now. */
  write(file: string, text: string, before: string): Promise<{ changed?: string }>;
  /** Writes a new scenario. */
  create(file: string, text: string): Promise<void>;
  /** When files were changed last. */
  stamps(files: readonly string[]): Promise<Readonly<Record<string, number>>>;
  project(): Promise<Project>;
  /** The program of a package that only some have: `rapier`. */
  program(name: 'rapier'): Promise<string>;
}

/** What there is to play with. */
export interface Project {
  /** The moveset that is opened. */
  readonly file: string;
  readonly scenarios: readonly ScenarioFile[];
  /** Rapier is there, to move bodies with. */
  readonly rapier?: boolean;
}

/** Something that the disk refused, in a sentence. */
export class DiskFault extends Error {}

/** The server that "loggia lab" runs, or a development server. */
export class LabDisk implements Disk {
  constructor(
    private readonly token: string,
    /** Where it is asked: `/lab`, or where the development server has it. */
    private readonly at: string,
  ) {}

  async project(): Promise<Project> {
    return (await this.ask('project')).data as Project;
  }

  async read(file: string): Promise<string> {
    return ((await this.ask(`file?file=${encodeURIComponent(file)}`)).data as { text: string }).text;
  }

  async stamps(files: readonly string[]): Promise<Readonly<Record<string, number>>> {
    const asked = files.map((file) => `file=${encodeURIComponent(file)}`).join('&');
    return (await this.ask(`stamp?${asked}`)).data as Record<string, number>;
  }

  async write(file: string, text: string, before: string): Promise<{ changed?: string }> {
    const { status, data } = await this.ask('file', { file, text, before }, [409]);
    return status === 409 ? { changed: (data as { text: string }).text } : {};
  }

  async create(file: string, text: string): Promise<void> {
    await this.ask('scenario', { file, text });
  }

  async program(name: 'rapier'): Promise<string> {
    return ((await this.ask(`program?name=${name}`)).data as { text: string }).text;
  }

  private async ask(
    path: string,
    body?: unknown,
    allowed: readonly number[] = [],
  ): Promise<{ status: number; data: unknown }> {
    let response: Response;
    try {
      response = await fetch(`${this.at}/${path}`, {
        headers: { 'x-loggia-token': this.token },
        ...(body !== undefined && { method: 'POST', body: JSON.stringify(body) }),
      });
    } catch {
      throw new DiskFault('The server has ended: start it again, and open the address that it prints.');
    }
    const text = await response.text();
    let data: unknown;
    try {
      data = JSON.parse(text);
    } catch {
      throw new DiskFault(text);
    }
    if (!response.ok && !allowed.includes(response.status))
      throw new DiskFault((data as { fault?: string }).fault ?? text);
    return { status: response.status, data };
  }
}

/** The path of a file that another one names. */
export function resolveFrom(file: string, named: string): string {
  const parts = file.split('/').slice(0, -1);
  for (const part of named.split('/')) {
    if (part === '..') parts.pop();
    else if (part !== '.' && part !== '') parts.push(part);
  }
  return parts.join('/');
}

/** The path of a file as another one, in that folder, names it. */
export function relativeTo(folder: string, file: string): string {
  const from = folder.split('/').filter(Boolean);
  const to = file.split('/');
  let same = 0;
  while (same < from.length && from[same] === to[same]) same++;
  return [...from.slice(same).map(() => '..'), ...to.slice(same)].join('/');
}
