/** What a component test needs beside its document: a database, and what a browser has and jsdom has not. Imported before the component. */
import "fake-indexeddb/auto";
import { TextDecoder, TextEncoder } from "node:util";
import { deserialize, serialize } from "node:v8";

Object.assign(globalThis, { TextDecoder, TextEncoder });

globalThis.structuredClone ??= (<T>(value: T): T => deserialize(serialize(value)) as T) as typeof structuredClone;

class NoResizes implements ResizeObserver {
  observe(): void {}
  unobserve(): void {}
  disconnect(): void {}
}
globalThis.ResizeObserver ??= NoResizes;
Element.prototype.hasPointerCapture ??= () => false;
Element.prototype.setPointerCapture ??= () => undefined;
Element.prototype.releasePointerCapture ??= () => undefined;
Element.prototype.scrollIntoView ??= () => undefined;
