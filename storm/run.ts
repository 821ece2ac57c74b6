import { storm as clients } from './clients';
import { storm as kills } from './kills';
import { storm as mutants } from './mutants';
import { storm as shipping } from './shipping';
import { Studio } from './studio';

// Half an hour's weather in ten minutes: kills, broken files, and many people at once, each bounded, with its figures. It ends with 1 when
// anything was lost, stuck, or slower than it may be.
//
//   npm run storm                      all four
//   npm run storm -- kills 20          twenty kills; likewise: files 500, clients 10 (seconds), shipping 4 (kills)
const COUNTS = { kills: 100, files: 10_000, clients: 60, shipping: 8 };
type Part = keyof typeof COUNTS;

const [only, count] = process.argv.slice(2);
if (only !== undefined && !(only in COUNTS)) throw new Error(`there is no part "${only}"; there are ${Object.keys(COUNTS).join(', ')}`);
const wanted = (part: Part): number => (only === undefined || only === part ? Number(count ?? COUNTS[part]) : 0);

const faults: string[] = [];
const told = (part: string, figures: object, found: readonly string[]) => {
  console.log(`${part}: ${JSON.stringify(figures)}`);
  for (const fault of found.slice(0, 20)) console.log(`  ${fault}`);
  faults.push(...found);
};

if (wanted('files') > 0) {
  const { figures, found } = await mutants(wanted('files'));
  told('broken files', figures, found);
}
if (wanted('kills') + wanted('clients') + wanted('shipping') > 0) {
  const studio = await Studio.start();
  try {
    if (wanted('clients') > 0) {
      const { figures, found } = await clients(studio, wanted('clients'));
      told('clients', figures, found);
    }
    if (wanted('kills') > 0) {
      const { figures, found } = await kills(studio, wanted('kills'));
      told('kills', figures, found);
    }
    if (wanted('shipping') > 0) {
      const { figures, found } = await shipping(studio, wanted('shipping'));
      told('shipping', figures, found);
    }
  } finally {
    await studio.end();
  }
}
console.log(faults.length === 0 ? 'storm: nothing lost, nothing stuck' : `storm: ${faults.length} faults`);
process.exit(faults.length === 0 ? 0 : 1);
