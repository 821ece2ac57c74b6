import type { TakePatch } from '@lantern/motion';
import type { MessagePort } from 'node:worker_threads';
import type { z } from 'zod';
import type { draftInput } from '@/http/draft';
import type { NewProjectInput } from '@/http/projects';

/** A file that has come in and lies on disk. */
interface InFile {
  readonly project: string;
  readonly file: string;
  readonly path: string;
  readonly size: number;
}

/** What is worked out beside the server, so that no request waits for another's file. */
export type ReadTask =
  | ({ readonly kind: 'take' } & InFile)
  | ({ readonly kind: 'character' } & InFile)
  | { readonly kind: 'change'; readonly take: string; readonly patch: TakePatch; readonly before?: TakePatch }
  | { readonly kind: 'way'; readonly take: string; readonly joint: string }
  | { readonly kind: 'archive'; readonly path: string }
  | { readonly kind: 'begin'; readonly input: NewProjectInput }
  | { readonly kind: 'demo' }
  | { readonly kind: 'day' }
  | { readonly kind: 'draft'; readonly project: string; readonly input: z.infer<typeof draftInput> };

/** A task, and where its progress is told: numbers from 0 to 1. */
export interface Ordered {
  readonly task: ReadTask;
  readonly told?: MessagePort;
}

/** What came of a task. Errors lose their class between threads: what they say is carried over as data. */
export type ReadAnswer =
  | { readonly value: unknown }
  | {
      readonly refused: {
        readonly code: string;
        readonly message: string;
        readonly place: { readonly line?: number; readonly joint?: string; readonly frame?: number };
      };
    }
  | { readonly failed: { readonly code: string | null; readonly message: string; readonly stack?: string } };
