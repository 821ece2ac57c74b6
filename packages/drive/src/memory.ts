/** All numbers that change while a character plays, in one array: so that a moment can be kept, and gone back to, by one copy. */
export interface Memory {
  /** Numbers of one's own, 0 at first. Only while a player is being made. */
  take(count: number): Float64Array;
  /** Nothing more is taken; from here on moments can be kept. */
  seal(): void;
  keep(): void;
  /** Goes back to the moment that was kept last. */
  back(): void;
}

/** Numbers that a block holds; what does not fit begins another one. */
const BLOCK = 8192;

export function playMemory(): Memory {
  const blocks: { now: Float64Array; kept: Float64Array; used: number }[] = [];
  return {
    take(count) {
      let block = blocks.at(-1);
      if (!block || block.used + count > block.now.length) {
        block = { now: new Float64Array(Math.max(BLOCK, count)), kept: new Float64Array(0), used: 0 };
        blocks.push(block);
      }
      block.used += count;
      return block.now.subarray(block.used - count, block.used);
    },
    seal() {
      for (const block of blocks) block.kept = new Float64Array(block.used);
    },
    keep() {
      for (let b = 0; b < blocks.length; b++) {
        const { now, kept } = blocks[b];
        for (let i = 0; i < kept.length; i++) kept[i] = now[i];
      }
    },
    back() {
      for (let b = 0; b < blocks.length; b++) blocks[b].now.set(blocks[b].kept);
    },
  };
}
