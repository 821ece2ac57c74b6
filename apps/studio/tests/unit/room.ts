/** jsdom lays nothing out: what measures its place is told that it has one. */
export function giveRoom(width = 900, height = 600): void {
  class Observer {
    constructor(private readonly told: ResizeObserverCallback) {}
    observe(target: Element): void {
      this.told([{ target, contentRect: { width, height } } as unknown as ResizeObserverEntry], this as unknown as ResizeObserver);
    }
    unobserve(): void {}
    disconnect(): void {}
  }
  Object.assign(globalThis, { ResizeObserver: Observer });
  const sizes = { clientWidth: width, clientHeight: height, offsetWidth: width, offsetHeight: height };
  for (const [name, value] of Object.entries(sizes)) Object.defineProperty(HTMLElement.prototype, name, { configurable: true, value });
  Element.prototype.scrollIntoView = () => {};
  Element.prototype.setPointerCapture = () => {};
  Element.prototype.releasePointerCapture = () => {};
  Element.prototype.hasPointerCapture = () => true;
  HTMLElement.prototype.getBoundingClientRect = () =>
    ({ x: 0, y: 0, left: 0, top: 0, right: width, bottom: height, width, height }) as DOMRect;
}
