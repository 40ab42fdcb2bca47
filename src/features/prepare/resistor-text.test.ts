import { parseDrawer } from "./drawer";

test("a drawer as text", () => {
  expect(parseDrawer("10R 5W, 4R7 10W ×2; 1k 0.25W")).toEqual({
    pieces: [
      { ohms: 10, watts: 5 },
      { ohms: 4.7, watts: 10 },
      { ohms: 4.7, watts: 10 },
      { ohms: 1000, watts: 0.25 },
    ],
  });
  expect(parseDrawer("10R")).toMatchObject({ error: expect.stringContaining("10R 5W") });
  expect(parseDrawer("10V 5W")).toMatchObject({ error: expect.stringContaining("10V 5W") });
  expect(parseDrawer("0R 5W")).toMatchObject({ error: expect.stringContaining("above zero") });
});
