import type { Chart, ChartAbility, ChartArrow } from '../analysis/chart.js';

/** A chart in the language of Graphviz. */
export function chartDot({ moveset, lanes, abilities, arrows }: Chart): string {
  const lines = [`digraph ${quoted(moveset)} {`, '  rankdir=LR;', '  node [shape=box];'];
  for (const [i, lane] of lanes.entries()) {
    lines.push(`  subgraph cluster_${i} {`, `    label=${quoted(lane)};`);
    for (const ability of abilities)
      if (ability.lane === lane) lines.push(`    ${quoted(ability.name)} [label=${quoted(labelOf(ability, '\n'))}];`);
    lines.push('  }');
  }
  for (const arrow of arrows)
    lines.push(
      `  ${quoted(arrow.from)} -> ${quoted(arrow.to)} [label=${quoted(wayText(abilities, arrow))}${arrow.gathered ? ', style=dotted' : ''}];`,
    );
  return `${lines.join('\n')}\n}\n`;
}

/** A chart in the language of Mermaid. */
export function chartMermaid({ lanes, abilities, arrows }: Chart): string {
  const id = (name: string) => `a${abilities.findIndex((ability) => ability.name === name)}`;
  const text = (of: string) => `"${of.replace(/[#"<>&\\]/g, (letter) => `#${letter.charCodeAt(0)};`)}"`;
  const lines = ['flowchart LR'];
  for (const [i, lane] of lanes.entries()) {
    lines.push(`  subgraph lane${i} [${text(lane)}]`);
    for (const ability of abilities)
      if (ability.lane === lane) lines.push(`    ${id(ability.name)}[${text(labelOf(ability, ', '))}]`);
    lines.push('  end');
  }
  for (const arrow of arrows) {
    const told = wayText(abilities, arrow);
    const way = `${arrow.gathered ? '-.->' : '-->'}${told && `|${text(told)}|`}`;
    lines.push(`  ${id(arrow.from)} ${way} ${id(arrow.to)}`);
  }
  return `${lines.join('\n')}\n`;
}

function labelOf({ name, starts, phases }: ChartAbility, between: string): string {
  const parts = phases.map((phase) => `${phase.name} ${phase.ticks === null ? '-' : `${phase.ticks}f`}`);
  return [name, starts.join(' or '), parts.join(', ')].filter(Boolean).join(between);
}

function wayText(abilities: readonly ChartAbility[], { from, phase, within }: ChartArrow): string {
  const name = abilities.find((ability) => ability.name === from)?.phases[phase]?.name;
  return [name === undefined ? '' : `in ${name}`, within === null ? '' : `within ${within}`].filter(Boolean).join(', ');
}

function quoted(text: string): string {
  return `"${text.replaceAll('\\', '\\\\').replaceAll('"', '\\"').replaceAll('\n', '\\n')}"`;
}
