import { audit, compile } from '@zany/core';
import { cleanPiece, compose, faults, generator, judgePlanted } from '@zany/core/testing';

/** How much of what is wrong the walk finds, and whether all that it says is so: on clean pieces, each with one fault planted. */

const times = Number(process.argv[2] ?? 12);
const isLoud = process.argv.includes('--each');
let [planted, found, said, wrong, lost] = [0, 0, 0, 0, 0];
const began = performance.now();

for (let seed = 0; seed < times * 8; seed++) {
  const { findings } = audit(compile(compose(cleanPiece(generator(seed)))));
  wrong += findings.length;
  if (isLoud) for (const { rule, sentence } of findings) console.log(`  clean piece ${seed}: ${rule}: ${sentence}`);
}
for (const rule of Object.keys(faults)) {
  let [mine, hit] = [0, 0];
  for (let way = 0; way < faults[rule]!.length * times; way++) {
    const judged = judgePlanted(rule, way, generator(way * 31 + 7));
    if (!judged) continue;
    mine++;
    if (judged.told) hit++;
    wrong += judged.false.length;
    lost += judged.lost.length;
    said += judged.false.length + (judged.told ? 1 : 0);
    if (isLoud) for (const one of judged.false) console.log(`  ${rule} ${way}: ${one.rule}: ${one.sentence}`);
    if (isLoud && !judged.told) console.log(`  ${rule} ${way}: not found`);
  }
  planted += mine;
  found += hit;
  console.log(`  ${rule.padEnd(22)} ${String(hit).padStart(4)} of ${mine} found`);
}
const share = (n: number, of: number) => (of === 0 ? 1 : n / of).toFixed(3);
console.log(
  `\n  ${planted} faults of ${Object.keys(faults).length} kinds: recall ${share(found, planted)} (goal 1.00), precision ${share(said - wrong, said)} (goal 0.99), ${lost} routes that lead elsewhere; ${Math.round(performance.now() - began)} ms`
);
