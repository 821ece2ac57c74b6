'use client';
import { useEffect, useRef, useState } from 'react';
import { helmOfKeys, type Helm } from './steering';

const HELM_KEYS = ['w', 'a', 's', 'd', 'arrowup', 'arrowdown', 'arrowleft', 'arrowright', 'shift'];
/** Where keys are somebody else's. */
const OTHERS = 'input, textarea, select, [role=dialog], [role=menu], [role=listbox], [role=combobox], [contenteditable]';
/** A stick that is moved less is at rest. */
const REST = 0.15;

/** Keys and a gamepad (standard mapping) at the helm; Escape lets go of it. */
export function useHelm({ onHelm, onPress }: { onHelm: (helm: Helm) => void; onPress: (number: number) => void }): {
  readonly held: ReadonlySet<string>;
  readonly pad: boolean;
} {
  const [held, setHeld] = useState<ReadonlySet<string>>(new Set());
  const [pad, setPad] = useState(false);
  const told = useRef({ onHelm, onPress });
  useEffect(() => {
    told.current = { onHelm, onPress };
  });
  useEffect(() => {
    const now = new Set<string>();
    const change = () => {
      setHeld(new Set(now));
      told.current.onHelm(helmOfKeys(now));
    };
    const isOthers = ({ target }: KeyboardEvent) => target instanceof Element && target.closest(OTHERS) !== null;
    const down = (event: KeyboardEvent) => {
      if (isOthers(event) || event.ctrlKey || event.metaKey || event.altKey) return;
      const key = event.key.toLowerCase();
      if (HELM_KEYS.includes(key)) {
        if (key !== 'shift') event.preventDefault();
        if (now.has(key)) return;
        now.add(key);
        change();
      } else if (key === 'escape') {
        now.clear();
        change();
      } else if (key === ' ' && !event.repeat) {
        event.preventDefault();
        // A button that has the focus is not pressed by it.
        (document.activeElement as HTMLElement | null)?.blur();
        told.current.onPress(0);
      } else if (/^[2-9]$/.test(key) && !event.repeat) told.current.onPress(Number(key) - 1);
    };
    const up = ({ key }: KeyboardEvent) => {
      if (now.delete(key.toLowerCase())) change();
    };
    const away = () => {
      now.clear();
      change();
    };
    window.addEventListener('keydown', down);
    window.addEventListener('keyup', up);
    window.addEventListener('blur', away);
    return () => {
      window.removeEventListener('keydown', down);
      window.removeEventListener('keyup', up);
      window.removeEventListener('blur', away);
    };
  }, []);
  useEffect(() => {
    if (typeof navigator.getGamepads !== 'function') return;
    let frame = 0;
    let wasHeld = false;
    const buttons: boolean[] = [];
    const look = () => {
      frame = requestAnimationFrame(look);
      const own = [...navigator.getGamepads()].find((one) => one !== null);
      setPad(own !== undefined);
      if (!own) return;
      const [x = 0, y = 0] = own.axes;
      const isHeld = Math.hypot(x, y) > REST;
      // A pad at rest leaves the helm to the keys.
      if (isHeld || wasHeld) told.current.onHelm(isHeld ? { x: Math.abs(x) > REST ? x : 0, y: -y } : { x: 0, y: 0 });
      wasHeld = isHeld;
      own.buttons.forEach(({ pressed }, k) => {
        if (pressed && !buttons[k]) told.current.onPress(k);
        buttons[k] = pressed;
      });
    };
    frame = requestAnimationFrame(look);
    return () => cancelAnimationFrame(frame);
  }, []);
  return { held, pad };
}
