import { base64 } from '@scure/base';
import { z } from 'zod';
import { type TypeFile, typeFileSchema } from '../aircraft/index.ts';
import { verdictOfRun } from '../debrief/index.ts';
import { checkSeals } from '../session/index.ts';
import { canonicalJson, checkChain, digestOf, type Entry, parseEntry, reduceRun } from '../procedure/index.ts';
import { decodeChunk, encodeChunk, type Trace } from '../trace/index.ts';

/** A run as one file, format `rouse-run/1`: its type, its journal, its trace, its state, and a digest over all of it. */
const bundleSchema = z.strictObject({
  format: z.literal('rouse-run/1'),
  run: z.strictObject({ id: z.uuid(), tail: z.string(), pilot: z.string(), openedAt: z.iso.datetime() }),
  type: z.unknown(),
  journal: z.array(z.unknown()),
  trace: z.strictObject({ codec: z.literal('RTC1'), channels: z.array(z.string()), data: z.base64() }),
  state: z.unknown(),
  digest: z.string().regex(/^[0-9a-f]{64}$/),
});

export interface BundleRun {
  id: string;
  tail: string;
  pilot: string;
  openedAt: string;
}

/** The text of a bundle: canonical JSON, so that the same run gives the same bytes. */
export function writeBundle(run: BundleRun, type: TypeFile, entries: readonly Entry[], trace: Trace): string {
  const resolutions = type.channels.map((c) => c.resolution);
  const body = {
    format: 'rouse-run/1',
    run,
    type,
    journal: entries,
    trace: { codec: 'RTC1', channels: trace.channels, data: base64.encode(encodeChunk(trace, resolutions)) },
    state: reduceRun(entries),
  };
  return canonicalJson({ ...body, digest: digestOf(canonicalJson(body)) });
}

export type BundleVerdict =
  | { ok: true; run: BundleRun; entries: number; frames: number; outcome: string | null; verdict: string }
  | {
      ok: false;
      code: 'not-json' | 'not-a-bundle' | 'not-canonical' | 'digest' | 'chain' | 'state' | 'trace';
      message: string;
      path: string;
    };

/** Checks a bundle from its bytes up: form, digest, chain, replayed state, and the trace against the digests in the journal. */
export function verifyBundle(text: string): BundleVerdict {
  const no = (code: Extract<BundleVerdict, { ok: false }>['code'], message: string, path = ''): BundleVerdict => ({
    ok: false,
    code,
    message,
    path,
  });
  let parsed: unknown;
  try {
    parsed = JSON.parse(text);
  } catch (error) {
    return no('not-json', error instanceof Error ? error.message : 'not JSON');
  }
  const shape = bundleSchema.safeParse(parsed);
  if (!shape.success) {
    const issue = shape.error.issues[0]!;
    return no('not-a-bundle', issue.message, issue.path.join('.'));
  }
  if (canonicalJson(parsed) !== text.trimEnd())
    return no('not-canonical', 'the text is not as it was written: a space, an order or a number differs');
  const { digest, ...body } = parsed as Record<string, unknown>;
  if (digestOf(canonicalJson(body)) !== digest)
    return no('digest', 'something in the file was changed after it was written', 'digest');
  const type = typeFileSchema.safeParse(shape.data.type);
  if (!type.success)
    return no('not-a-bundle', type.error.issues[0]!.message, `type.${type.error.issues[0]!.path.join('.')}`);
  let entries: Entry[];
  try {
    entries = shape.data.journal.map(parseEntry);
  } catch (error) {
    return no('not-a-bundle', error instanceof z.ZodError ? error.issues[0]!.message : String(error), 'journal');
  }
  const fault = checkChain(entries);
  if (fault) return no('chain', fault.message, `journal.${fault.seq - 1}`);
  const state = reduceRun(entries);
  if (canonicalJson(state) !== canonicalJson(shape.data.state))
    return no('state', 'replaying the journal gives another state than the file says', 'state');
  try {
    const trace = decodeChunk(base64.decode(shape.data.trace.data), shape.data.trace.channels);
    const resolutions = type.data.channels.map((c) => c.resolution);
    const unsealed = checkSeals(entries, trace, resolutions, state.status === 'closed');
    if (unsealed) return no('trace', unsealed.message, `journal.${unsealed.seq - 1}`);
    const { verdict } = verdictOfRun(type.data, entries, []);
    return {
      ok: true,
      run: shape.data.run,
      entries: entries.length,
      frames: trace.t_s.length,
      outcome: state.outcome,
      verdict,
    };
  } catch (error) {
    return no('trace', error instanceof Error ? error.message : String(error), 'trace.data');
  }
}
