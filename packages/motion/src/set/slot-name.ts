import type { Direction, Slot } from './slot';

/** A name for what fills a slot: `jog-stop-right`. */
export function slotName(slot: Slot): string {
  const way = (direction: Direction) => (direction === 'forward' ? [] : [direction]);
  switch (slot.kind) {
    case 'idle':
      return 'wait';
    case 'loop':
      return `${slot.gait}-${slot.direction}`;
    case 'arc':
      return `${slot.gait}-arc-${slot.side}`;
    case 'turn':
      return `turn-${slot.side}-${slot.angle}`;
    case 'start':
    case 'stop':
      return [slot.gait, slot.kind, ...(slot.foot ? [slot.foot] : []), ...way(slot.direction)].join('-');
    case 'pivot':
      return `${slot.gait}-pivot-${slot.foot}-${slot.angle}`;
    case 'between':
      return [slot.gait, 'to', slot.to, ...(slot.foot ? [slot.foot] : [])].join('-');
    case 'flight':
      return [slot.how, slot.on, ...(slot.along ? [] : ['on-the-spot'])].join('-');
    case 'step':
      return `${slot.over}-${slot.way}`;
  }
}
