import { connect } from './database';
import { FIT_QUEUE, openBoss, sweep, type FitJobData } from './fit-jobs';
import { log } from './log';
import { purgeProjects } from './purge-projects';
import { runFit } from './run-fit';
import { drain } from './ship/drain';
import { pruneShipping, SHIP_QUEUE, sweepShipping } from './ship/made-clips';
import { toLog } from './trouble';

// A worker of the queue. More of them, on this machine or on others, are started with the same DATABASE_URL.
const url = process.env.DATABASE_URL;
if (!url) throw new Error('DATABASE_URL is not set');
const { database, close } = connect(url);
const queue = await openBoss(url);
/** Milliseconds between looks for jobs that are stuck. */
const LOOK = 4000;
const HOUR = 3_600_000;
/** Clips and shipments that wait are looked for too: a call for them may have been lost. */
const look = async () => {
  await sweep(database, queue);
  if (await sweepShipping(database)) await drain(database);
};
const timer = setInterval(() => {
  look().catch((error: unknown) => log.error(toLog(error), 'mending the queue failed'));
}, LOOK);
await sweep(database, queue);
const pruning = setInterval(() => {
  Promise.all([pruneShipping(database), purgeProjects(database)]).catch((error: unknown) =>
    log.error(toLog(error), 'letting go of what is old failed'),
  );
}, HOUR);
await queue.work<FitJobData>(FIT_QUEUE, { batchSize: 1, pollingIntervalSeconds: 0.5 }, async ([job]) => {
  if (job) await runFit(database, job.data.id).catch((error: unknown) => log.error(toLog(error), 'a fit failed'));
});

await queue.work(SHIP_QUEUE, { batchSize: 1, pollingIntervalSeconds: 0.5 }, async () => {
  await drain(database).catch((error: unknown) => log.error(toLog(error), 'shipping failed'));
});

const end = async () => {
  clearInterval(timer);
  clearInterval(pruning);
  await queue.stop({ graceful: false }).catch(() => {});
  await close();
  process.exit(0);
};
process.on('SIGTERM', () => void end());
process.on('SIGINT', () => void end());
