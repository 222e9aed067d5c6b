import { readFileSync } from 'node:fs';
import { parseMoveset } from '../src/format/text.js';
import { Character, flatGround } from '../src/index.js';
import { MINUTE, STREAMS, type StreamName } from './streams.js';
const plan = parseMoveset(readFileSync('bench/yard-fight.yaml', 'utf8')).plan!;
const name = (process.argv[2] ?? 'real') as StreamName;
const c = new Character(plan, { world: flatGround() });
const stream = STREAMS[name];
function run(){ for (let t = 0; t < MINUTE; t++) { const row = stream[t]; for (let i = 0; i < row.length; i++) { if (row[i].down) c.door.press(row[i].input); else c.door.release(row[i].input);} c.tick(); } }
for (let i=0;i<100;i++) run();
const s = process.cpuUsage(); for (let i=0;i<600;i++) run(); const e = process.cpuUsage(s);
console.log(name, ((e.user+e.system)*1000/(600*MINUTE)).toFixed(0), 'ns');
