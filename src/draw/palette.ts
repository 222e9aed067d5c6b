/** Colours of pictures that change: by what they are for. */
export interface Palette {
  readonly page: string;
  /** Every other row. */
  readonly band: string;
  readonly ink: string;
  readonly soft: string;
  readonly line: string;
  /** What was refused, or failed. */
  readonly alarm: string;
  /** Where one is in time. */
  readonly now: string;
  /** What lets something in. */
  readonly open: string;
  readonly held: string;
  readonly curve: string;
  readonly solid: string;
  readonly edge: string;
  readonly area: string;
  readonly hit: string;
  readonly hurt: string;
  readonly ray: string;
  readonly dark: boolean;
}

export const LIGHT: Palette = {
  page: '#f7f4ec',
  band: '#efe9da',
  ink: '#1d2a2e',
  soft: '#566469',
  line: '#cfc8b6',
  alarm: '#b4372b',
  now: '#0d6470',
  open: '#2f5d73',
  held: '#9aa9a6',
  curve: '#0d6470',
  solid: '#cdc6b2',
  edge: '#8b8672',
  area: '#d9e4e0',
  hit: '#c2452f',
  hurt: '#1f7a63',
  ray: '#7a3f8f',
  dark: false,
};
export const DARK: Palette = {
  page: '#122027',
  band: '#18292f',
  ink: '#e9e2cc',
  soft: '#a2afb0',
  line: '#34464e',
  alarm: '#ff8b74',
  now: '#6fd3dc',
  open: '#8fc3d8',
  held: '#5d7377',
  curve: '#6fd3dc',
  solid: '#33454c',
  edge: '#6c8087',
  area: '#1d3a3a',
  hit: '#ff8b74',
  hurt: '#7fd8b8',
  ray: '#d9a3ea',
  dark: true,
};

/** Hues that lie far apart, one behind the other; lightness goes up and down with them, so that they differ without colour, too. */
const HUES = [202, 30, 152, 338, 52, 266, 96, 8, 226, 178, 310, 74];
const LIGHTS = [70, 78, 64];
/** How much darker they are on a dark page. */
const DARKER = 40;

/** The colour of an ability, by its index in its moveset: the same everywhere. */
export function abilityColor(index: number, { dark }: Palette): string {
  const hue = HUES[index % HUES.length];
  const light = LIGHTS[index % LIGHTS.length];
  return dark ? `hsl(${hue}, 38%, ${light - DARKER}%)` : `hsl(${hue}, 52%, ${light}%)`;
}
