/** @jest-environment jsdom */
import "@/testing/screen";
import { act, cleanup, fireEvent, renderHook } from "@testing-library/react";
import { useLater, useLeftAlone } from "./use-later";

beforeEach(() => jest.useFakeTimers());
afterEach(() => {
  cleanup();
  jest.useRealTimers();
});
const waited = (ms: number) => act(() => void jest.advanceTimersByTime(ms));

test("later comes whatever is done meanwhile; left alone is only who did nothing for so long, and stays it", () => {
  const later = renderHook(() => useLater(1000)).result;
  const alone = renderHook(() => useLeftAlone(1000)).result;
  waited(900);
  act(() => void fireEvent.keyDown(document.body, { key: "+" }));
  waited(900);
  expect([later.current, alone.current]).toEqual([true, false]);
  act(() => void fireEvent.wheel(document.body));
  waited(999);
  expect(alone.current).toBe(false);
  waited(1);
  expect(alone.current).toBe(true);
  act(() => void fireEvent.keyDown(document.body, { key: "+" }));
  expect(alone.current).toBe(true);
});

test("a page that is left before stops waiting", () => {
  const { result, unmount } = renderHook(() => useLeftAlone(1000));
  unmount();
  expect(jest.getTimerCount()).toBe(0);
  expect(result.current).toBe(false);
});
