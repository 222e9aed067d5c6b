import type { Plan } from '../compile/plan.js';
import type { Reading } from '../compile/readings.js';
import type { Facts } from '../moveset/name-types.js';
import type { Frame } from '../record/frame.js';
import { indexOfName } from '../report/usage-error.js';

/** Facts by name, for functions in a moveset and for whoever looks from outside. */
export class FactView implements Facts {
  private readonly readings = new Map<string, Reading>();

  constructor(
    private readonly plan: Plan,
    private readonly frame: Frame,
  ) {}

  get grounded(): boolean {
    return this.fact('grounded') === 1;
  }
  get airborne(): boolean {
    return this.fact('airborne') === 1;
  }
  get landed(): boolean {
    return this.fact('landed') === 1;
  }
  get moving(): boolean {
    return this.fact('moving') === 1;
  }
  get atWall(): boolean {
    return this.fact('atWall') === 1;
  }
  get atCeiling(): boolean {
    return this.fact('atCeiling') === 1;
  }
  get headroom(): boolean {
    return this.fact('headroom') === 1;
  }
  get height(): number {
    return this.fact('height');
  }
  get x(): number {
    return this.fact('x');
  }
  get y(): number {
    return this.fact('y');
  }
  get z(): number {
    return this.fact('z');
  }
  get vx(): number {
    return this.fact('vx');
  }
  get vy(): number {
    return this.fact('vy');
  }
  get vz(): number {
    return this.fact('vz');
  }
  get speed(): number {
    return this.fact('speed');
  }
  get facing(): number {
    return this.fact('facing');
  }

  pool(name: string): number {
    return this.fact(`pool.${String(name)}`);
  }
  held(input: string): boolean {
    return this.fact(`held(${String(input)})`) === 1;
  }
  pressed(input: string): boolean {
    return this.fact(`pressed(${String(input)})`) === 1;
  }
  released(input: string): boolean {
    return this.fact(`released(${String(input)})`) === 1;
  }
  heldFor(input: string): number {
    return this.fact(`heldFor(${String(input)})`);
  }
  in(stance: string): boolean {
    return this.fact(`in(${String(stance)})`) === 1;
  }
  shape(name: string): boolean {
    return this.fact(`shape(${String(name)})`) === 1;
  }
  phase(ability: string, phase: string): boolean {
    return this.fact(`phase(${String(ability)}.${String(phase)})`) === 1;
  }
  condition(name: string): boolean {
    return this.fact(String(name)) === 1;
  }
  tagged(tag: string): boolean {
    return this.fact(`tagged(${String(tag)})`) === 1;
  }
  running(ability: string): boolean {
    return this.fact(`running(${String(ability)})`) === 1;
  }
  timeIn(ability: string): number {
    return this.fact(`timeIn(${String(ability)})`);
  }
  since(ability: string): number {
    return this.fact(`since(${String(ability)})`);
  }
  cooldown(ability: string): number {
    return this.fact(`cooldown(${String(ability)})`);
  }
  charge(ability: string): number {
    return this.fact(`charge(${String(ability)})`);
  }
  charges(ability: string): number {
    return this.fact(`charges(${String(ability)})`);
  }
  latched(ability: string): boolean {
    return this.fact(`latched(${String(ability)})`) === 1;
  }
  event(name: string): boolean {
    return this.fact(`event(${String(name)})`) === 1;
  }
  wearing(loadout: string): boolean {
    return this.fact(`wearing(${String(loadout)})`) === 1;
  }
  hit(probe: string): boolean {
    return this.fact(`${String(probe)}.hit`) === 1;
  }
  distance(probe: string): number {
    return this.fact(`${String(probe)}.distance`);
  }

  known(name: string): boolean {
    return this.fact(`known(${String(name)})`) === 1;
  }
  distanceTo(mark: string): number {
    return this.fact(`distance(${String(mark)})`);
  }
  chosen(option: string): boolean {
    return this.fact(`chosen(${String(option)})`) === 1;
  }
  on(surface: string, probe = 'ground'): boolean {
    return this.fact(`${String(probe)}.on(${String(surface)})`) === 1;
  }

  fact(name: string): number {
    let reading = this.readings.get(name);
    if (!reading) {
      reading = this.plan.reading(name);
      if (!reading) indexOfName('fact', 'fact', name, this.plan.factNames(), this.plan.code);
      this.readings.set(name, reading as Reading);
    }
    const { run, at, type } = reading as Reading;
    run?.(this.frame);
    return type === 'time' ? this.frame.r[at] / this.plan.rate : this.frame.r[at];
  }
}
