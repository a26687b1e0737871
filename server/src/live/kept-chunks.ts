/** room of a block: a few seconds of frames at 50 Hz */
const BLOCK_BYTES = 64 * 1024;

interface Block {
  bytes: Buffer;
  used: number;
  /** of each chunk in it: where it ends, and the run clock of its last frame */
  ends: number[];
  last_s: number[];
}

/**
 * Frames of an open run as they went to the outbox, some thousand chunks in a few blocks: two hundred runs may be open, and
 * each thing that lives for minutes is looked at by every collection of what does not.
 */
export class KeptChunks {
  private blocks: Block[] = [];

  /** @returns the chunk as it is kept */
  add(chunk: Uint8Array, last_s: number): Buffer {
    let block = this.blocks[this.blocks.length - 1];
    if (!block || block.used + chunk.length > block.bytes.length) {
      const bytes = Buffer.allocUnsafeSlow(Math.max(BLOCK_BYTES, chunk.length));
      block = { bytes, used: 0, ends: [], last_s: [] };
      this.blocks.push(block);
    }
    const from = block.used;
    block.bytes.set(chunk, from);
    block.used += chunk.length;
    block.ends.push(block.used);
    block.last_s.push(last_s);
    return block.bytes.subarray(from, block.used);
  }

  /** Those that end after a time, the oldest first. */
  after(from_s: number): Uint8Array[] {
    const out: Uint8Array[] = [];
    for (const { bytes, ends, last_s } of this.blocks)
      for (let i = 0; i < ends.length; i++)
        if (last_s[i]! > from_s) out.push(bytes.subarray(i === 0 ? 0 : ends[i - 1]!, ends[i]));
    return out;
  }

  /** Those that end before a time are not needed any more; the last block stays. */
  letGo(before_s: number): void {
    while (this.blocks.length > 1 && this.blocks[0]!.last_s.at(-1)! < before_s) this.blocks.shift();
  }
}
