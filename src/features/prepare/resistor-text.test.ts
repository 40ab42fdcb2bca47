import { parseResistors } from "./resistor-text";

test("a drawer as text", () => {
  expect(parseResistors("10R 5W, 4R7 10W ×2; 1k 0.25W")).toEqual({
    pieces: [
      { ohms: 10, watts: 5 },
      { ohms: 4.7, watts: 10 },
      { ohms: 4.7, watts: 10 },
      { ohms: 1000, watts: 0.25 },
    ],
  });
  expect(parseResistors("10R")).toMatchObject({ error: expect.stringContaining("10R 5W") });
  expect(parseResistors("10V 5W")).toMatchObject({ error: expect.stringContaining("10V 5W") });
  expect(parseResistors("0R 5W")).toMatchObject({ error: expect.stringContaining("above zero") });
});
