import type { JoinDoc, JoinRow } from '@/http/join';
import { documentStore, type DocumentKind } from './document-store';
import { late } from './late';

export type { JoinDoc } from '@/http/join';

export const useJoins = documentStore<JoinDoc>();

export const JOINS: DocumentKind<JoinDoc, JoinRow> = {
  store: useJoins,
  path: 'joins',
  field: 'join',
  key: (project) => `old-lantern.joins.${project}`,
  docOf: ({ id, name, pieces, start }) => ({ id, name, pieces, start }),
  readRow: (value) => late().savedJoinSchema.safeParse(value).data ?? null,
  readDoc: (value) => late().joinDocumentSchema.safeParse(value).data ?? null,
};
