// Checks every chain of a database that was restored. scripts/restore.mjs runs it; PGHOST and the like say where.
import pg from 'pg';
import { verifyChains } from './verify-chains.ts';

const client = new pg.Client();
await client.connect();
const { runs, entries, broken } = await verifyChains(client);
await client.end();
for (const words of broken.slice(0, 20)) console.error(`[rouse] ${words}`);
process.send?.({
  say: `${runs} runs with ${entries} entries: ${broken.length === 0 ? 'every chain is whole' : `${broken.length} broken`}`,
});
process.exit(broken.length === 0 ? 0 : 1);
