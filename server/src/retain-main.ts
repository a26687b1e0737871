// Keeps readings as long as the policy says. scripts/retain.mjs runs it; PGHOST and the like say where.
import pg from 'pg';
import { retain } from './retention/retain.ts';

const client = new pg.Client();
await client.connect();
try {
  const { thinned, emptied, dropped } = await retain(client, new Date());
  process.send?.({ say: `${thinned} runs are kept with fewer readings, ${emptied} with their figures alone` });
  if (dropped.length > 0) process.send?.({ say: `months with nothing left were dropped: ${dropped.join(', ')}` });
} catch (error) {
  console.error(`[rouse] ${error instanceof Error ? error.message : String(error)}`);
  process.exitCode = 1;
} finally {
  await client.end();
}
