import type { ShownVolume } from 'loggia';
import type { Arena, ArenaEvent, Member } from 'loggia/arena';
import { Application, Container, Graphics, Text } from 'pixi.js';
import 'pixi.js/unsafe-eval';

const COLORS = {
  sky: 0x23344c,
  far: 0x1b2940,
  sea: 0x2c5560,
  stone: 0x566a84,
  top: 0x93a9c2,
  pell: 0xf0e2c0,
  rival: 0xa9c7e8,
  scarf: 0xea7d63,
  shell: 0x7c8f6a,
  claw: 0xb7c78f,
  pearl: 0xd9ecff,
  gull: 0xffffff,
  hit: 0xff6b57,
  hurt: 0x8fe0c8,
  touch: 0xffd479,
  spark: 0xffe08a,
  dark: 0x141c2b,
};
export const WIDTH = 18;
/** How much of the height of the window the floor is above its lower edge, in metres. */
const BELOW = 3.4;
/** The least width that is shown. */
const NEAREST = 10.5;

interface Flash {
  readonly x: number;
  readonly y: number;
  readonly color: number;
  readonly size: number;
  age: number;
}

/** Draws the breakwater and everybody on it; the view holds both fighters. */
export class Stage {
  private readonly scene = new Container();
  private readonly bodies = new Graphics();
  private readonly flashes = new Graphics();
  private readonly volumes = new Graphics();
  private readonly numbers = new Container();
  private sparks: Flash[] = [];
  private shake = 0;
  private shown = WIDTH;
  private middle = WIDTH / 2;
  /** Shows where each strikes and can be struck. */
  showsVolumes = true;

  private constructor(
    private readonly app: Application,
    private readonly host: HTMLElement,
  ) {
    this.scene.addChild(drawPlace(), this.bodies, this.flashes, this.volumes, this.numbers);
    app.stage.addChild(this.scene);
  }

  static async create(host: HTMLElement): Promise<Stage> {
    const app = new Application();
    await app.init({ background: COLORS.sky, resizeTo: host, antialias: true, autoStart: false });
    host.append(app.canvas);
    return new Stage(app, host);
  }

  /** What a blow looks like. */
  hear(event: ArenaEvent): void {
    if (event.kind !== 'blow') return;
    const { x, y } = event.at;
    const guarded = event.outcome === 'blocked' || event.outcome === 'parried';
    const color = guarded ? COLORS.hurt : event.damageKind === 'spark' ? COLORS.spark : COLORS.hit;
    this.sparks.push({
      x,
      y,
      color,
      size: 0.25 + event.damage * 0.05 + (event.outcome === 'parried' ? 0.4 : 0),
      age: 0,
    });
    this.shake = Math.max(this.shake, event.damage * 0.012);
    const word = event.outcome === 'struck' ? String(Math.round(event.damage * 10) / 10) : event.outcome;
    const text = new Text({
      text: word,
      style: { fontSize: 34, fill: color, fontWeight: '700', fontFamily: 'system-ui' },
    });
    text.anchor.set(0.5);
    text.scale.set(0.011, -0.011);
    text.position.set(x, y + 0.5);
    this.numbers.addChild(text);
  }

  draw(arena: Arena, seconds: number): void {
    const { clientWidth: width, clientHeight: height } = this.host;
    this.follow(arena, seconds);
    const scale = width / this.shown;
    this.shake = Math.max(0, this.shake - seconds * 0.6);
    const wobble = this.shake > 0 ? Math.sin(performance.now() / 16) * this.shake * scale : 0;
    this.scene.scale.set(scale, -scale);
    this.scene.position.set(wobble + (this.shown / 2 - this.middle) * scale, height - (BELOW - 1) * 70);
    this.bodies.clear();
    for (const member of arena.members) this.drawMember(member);
    this.drawFlashes(seconds);
    this.volumes.clear();
    if (this.showsVolumes)
      for (const { character } of arena.members)
        for (const volume of character.readout.volumes) this.drawVolume(volume);
    this.app.render();
  }

  /** Holds both fighters in view: nearer while they are close. */
  private follow({ members }: Arena, seconds: number): void {
    const places = members.slice(0, 2).map(({ character }) => character.readout.x);
    const [low, high] = [Math.min(...places), Math.max(...places)];
    const wanted = Math.max(NEAREST, Math.min(WIDTH, high - low + 6));
    const ease = Math.min(1, seconds * 4);
    this.shown += (wanted - this.shown) * ease;
    const half = this.shown / 2;
    const middle = Math.max(half, Math.min(WIDTH - half, (low + high) / 2));
    this.middle += (middle - this.middle) * ease;
  }

  private drawMember({ name, character }: Member): void {
    const { readout, facts } = character;
    const { x, y, width, height, facing } = readout;
    const g = this.bodies;
    if (name.startsWith('pearl')) {
      g.regularPoly(x, y + 0.12, 0.14, 28).fill(COLORS.pearl);
      return;
    }
    if (name.startsWith('skerry')) {
      const flap = Math.sin(performance.now() / 70) * 0.22;
      g.poly([x - 0.45, y + 0.2 + flap, x, y + 0.1, x + 0.45, y + 0.2 + flap, x, y + 0.24]).fill(COLORS.gull);
      g.regularPoly(x + facing * 0.1, y + 0.2, 0.1, 28).fill(COLORS.gull);
      return;
    }
    const stunned = facts.tagged('stunned' as never);
    const lying = facts.tagged('down' as never);
    const lean = stunned ? -facing * 0.12 : 0;
    const tall = lying ? 0.5 : height;
    const wide = lying ? 1.5 : width;
    if (character.plan.name === 'Sentry') {
      g.roundRect(x - wide / 2 + lean, y, wide, tall, 0.3).fill(COLORS.shell);
      for (let i = 0; i < 3; i++)
        g.regularPoly(x + lean + (i - 1) * 0.22, y + tall * (0.35 + 0.2 * (i % 2)), 0.09, 28).fill(COLORS.dark);
      if (!lying) {
        const out = readout.phase() === 'active' ? 1.1 : readout.phase() === 'windup' ? -0.1 : 0.45;
        g.poly([
          ...[x + lean, y + 1.15, x + facing * (out + 0.25), y + 1.3],
          ...[x + facing * (out + 0.35), y + 1, x + lean, y + 0.85],
        ]).fill(COLORS.claw);
      }
    } else {
      g.roundRect(x - wide / 2 + lean, y, wide, tall, 0.16).fill(name === 'rival' ? COLORS.rival : COLORS.pell);
      g.rect(x - wide / 2 + lean, y + tall * 0.66, wide, 0.14).fill(COLORS.scarf);
      g.regularPoly(x + facing * width * 0.22 + lean, y + tall * 0.86, 0.06, 28).fill(COLORS.dark);
      if (!lying) this.drawGaff(character, x + lean, y + tall * 0.55, facing);
    }
  }

  private drawGaff({ readout }: Member['character'], x: number, y: number, facing: number): void {
    const phase = readout.ability() === null ? null : readout.phase();
    const reach = phase === 'active' ? 1.15 : phase === 'windup' ? 0.2 : 0.55;
    const lift = phase === 'windup' ? 0.5 : phase === 'active' ? 0.05 : 0.25;
    const guards = readout.isRunning('brace' as never);
    const end = guards ? [x + facing * 0.45, y + 0.75] : [x + facing * reach, y + lift];
    this.bodies
      .moveTo(x - facing * 0.2, guards ? y - 0.5 : y - 0.1)
      .lineTo(end[0], end[1])
      .stroke({ color: COLORS.top, width: 0.07, cap: 'round' });
    const charge = readout.charge('lampFlare' as never);
    if (readout.isRunning('lampFlare' as never))
      this.bodies
        .regularPoly(x + facing * 0.4, y + 0.3, 0.1 + charge * 0.22, 28)
        .fill({ color: COLORS.spark, alpha: 0.85 });
  }

  private drawFlashes(seconds: number): void {
    this.flashes.clear();
    for (const flash of this.sparks) {
      flash.age += seconds / 0.25;
      const left = Math.max(0, 1 - flash.age);
      this.flashes
        .star(flash.x, flash.y, 6, flash.size * (1.2 - left * 0.4), flash.size * 0.4)
        .fill({ color: flash.color, alpha: left });
    }
    this.sparks = this.sparks.filter(({ age }) => age < 1);
    for (const text of [...this.numbers.children]) {
      text.position.y += seconds * 1.1;
      text.alpha -= seconds * 1.3;
      if (text.alpha <= 0) text.destroy();
    }
  }

  private drawVolume(volume: ShownVolume): void {
    const color = COLORS[volume.part];
    const alpha = volume.part === 'hurt' ? 0.12 : 0.35;
    if (volume.shape === 'box') {
      const { middle, width, height } = volume;
      this.volumes.rect(middle.x - width / 2, middle.y - height / 2, width, height);
    } else {
      const { from, to, radius } = volume;
      const [x, y] = [to.x - from.x, to.y - from.y];
      const length = Math.hypot(x, y);
      if (length < 0.01) this.volumes.regularPoly(from.x, from.y, radius, 28);
      else {
        const [nx, ny] = [(-y / length) * radius, (x / length) * radius];
        this.volumes.regularPoly(from.x, from.y, radius, 28).fill({ color, alpha });
        this.volumes.regularPoly(to.x, to.y, radius, 28).fill({ color, alpha });
        this.volumes.poly([
          from.x + nx,
          from.y + ny,
          to.x + nx,
          to.y + ny,
          to.x - nx,
          to.y - ny,
          from.x - nx,
          from.y - ny,
        ]);
      }
    }
    this.volumes.fill({ color, alpha }).stroke({ color, alpha: 0.8, width: 0.025 });
  }
}

function drawPlace(): Graphics {
  const g = new Graphics();
  g.rect(-2, -6, WIDTH + 4, 8.2).fill(COLORS.sea);
  for (let i = 0; i < 5; i++) g.rect(1.4 + i * 3.9, 1, 0.16, 6.5 + (i % 2) * 1.6).fill(COLORS.far);
  g.poly([-1, 1.6, 5, 3.4, 9, 2.4, 14, 4, 20, 1.6]).fill(COLORS.far);
  g.rect(-2, -6, WIDTH + 4, 7).fill(COLORS.stone);
  g.rect(-2, 0.86, WIDTH + 4, 0.14).fill(COLORS.top);
  for (let i = 0; i < WIDTH; i += 2) g.rect(i + 0.98, -1.2, 0.05, 2.06).fill(COLORS.dark);
  for (const x of [0.2, WIDTH - 0.9]) g.roundRect(x, 1, 0.7, 1.6, 0.2).fill(COLORS.stone);
  return g;
}
