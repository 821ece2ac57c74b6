'use client';
import { Group, Panel, Separator, useDefaultLayout } from 'react-resizable-panels';
import type { ReactNode } from 'react';
import { Guarded } from './Guarded';
import { chart } from './theme';

export interface Part {
  readonly id: string;
  /** What it is, for the sentence that stands there when it cannot be shown. */
  readonly name: string;
  readonly size: string;
  readonly least: string;
  readonly content: ReactNode;
}

const storage = {
  getItem: (key: string) => (typeof localStorage === 'undefined' ? null : localStorage.getItem(key)),
  setItem: (key: string, value: string) => localStorage.setItem(key, value),
};

/** Panels side by side or one above the other, resized by dragging or by arrow keys, and remembered. */
export function Split({ id, vertical, parts }: { id: string; vertical?: boolean; parts: readonly Part[] }) {
  const layout = useDefaultLayout({ id: `old-lantern.${id}`, storage });
  return (
    <Group orientation={vertical ? 'vertical' : 'horizontal'} style={{ height: '100%' }} {...layout}>
      {parts.flatMap(({ id: part, name, size, least, content }, i) => [
        ...(i > 0
          ? [
              <Separator
                key={`${part}-edge`}
                aria-label={`Resize ${part}`}
                style={{ flex: '0 0 5px', background: chart('rule'), opacity: 0.7, outlineOffset: -1 }}
              />,
            ]
          : []),
        <Panel key={part} id={part} defaultSize={size} minSize={least} style={{ minHeight: 0, minWidth: 0, overflow: 'hidden' }}>
          <Guarded name={name}>{content}</Guarded>
        </Panel>,
      ])}
    </Group>
  );
}
