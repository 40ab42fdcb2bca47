/** @jest-environment jsdom */
import "@/testing/screen";
import { act, cleanup, render, screen } from "@testing-library/react";
import { useNewWatched, useWatched, type Watched } from "./watched";

afterEach(cleanup);

interface Seen {
  drawn(what: "page" | "share"): void;
}
function Share({ of, drawn }: Seen & { readonly of: Watched<number> }) {
  drawn("share");
  return <output>{useWatched(of)}</output>;
}
function Page({ drawn, onStart }: Seen & { onStart(far: Watched<number>): void }) {
  const share = useNewWatched(0);
  drawn("page");
  return (
    <>
      <button type="button" onClick={() => onStart(share)}>
        start
      </button>
      <Share of={share} drawn={drawn} />
    </>
  );
}

test("a share that is told redraws what shows it, and not the page around it", () => {
  const drawn = jest.fn<undefined, ["page" | "share"]>();
  const onStart = jest.fn<undefined, [Watched<number>]>();
  const { unmount } = render(<Page drawn={drawn} onStart={onStart} />);
  screen.getByRole("button").click();
  const [far] = onStart.mock.calls[0] ?? [];
  if (!far) throw new Error("not started");
  drawn.mockClear();
  for (const s of [0.1, 0.2, 0.2, 0.3]) act(() => far.set(s));
  expect(screen.getByRole("status").textContent).toBe("0.3");
  expect(drawn.mock.calls.flat()).toEqual(["share", "share", "share"]);
  unmount();
  far.set(0.4);
  expect([drawn.mock.calls.length, far.get()]).toEqual([3, 0.4]);
});
