// Proves that the faults can tell: each sabotage of what keeps files safe must make them fail.
import { spawn } from 'node:child_process';
import { ROOT } from '../bootstrap.mjs';

const RUNS = [
  ['no-readback', 'device'],
  ['overwrite', 'device'],
  ['early-rename', 'kill'],
  ['no-fsync', 'cut'],
];

function run([sabotage, only]) {
  return new Promise((resolve) => {
    const args = ['tools/faults.mjs', '--count', '2', '--sabotage', sabotage, '--only', only];
    const child = spawn(process.execPath, args, { cwd: ROOT });
    let said = '';
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (text) => (said += text));
    child.on('exit', (code) => {
      const [, survived, of] = /faults survived: (\d+) of (\d+)/.exec(said) ?? [];
      // A harness that broke off has found nothing out.
      const caught = code === 1 && Number(survived) < Number(of);
      console.log(
        `${caught ? 'caught' : 'NOT CAUGHT'}: ${sabotage} (${survived ?? '?'} of ${of ?? '?'} survived)`,
      );
      if (!caught) console.log(said);
      resolve(caught);
    });
  });
}

// Two at a time: the machines this runs on have two cores.
const results = [];
for (let i = 0; i < RUNS.length; i += 2) results.push(...(await Promise.all(RUNS.slice(i, i + 2).map(run))));
const failed = results.filter((caught) => !caught).length;
console.log(`  ${results.length - failed} passed\n  ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
