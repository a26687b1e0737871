// Checks every chain of a database that was restored. scripts/restore.mjs runs it; PGHOST and the like say where.
import pg from 'pg';
import { verifyChains } from './verify-chains.ts';

const client = new pg.Client();
await client.connect();
const { runs, entries, broken } = await verifyChains(client);
await client.end();
for (const words of broken.slice(0, 20)) console.error(`[rouse] ${words}`);
const found = broken.length === 0 ? 'every chain is whole' : `${broken.length} broken`;
process.send?.({ say: runs === 0 ? 'there is no run in it' : `${runs} runs with ${entries} entries: ${found}` });
process.exit(broken.length === 0 ? 0 : 1);
