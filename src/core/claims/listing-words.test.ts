import { characteristic, type Characteristic } from "../characteristics";
import { formatLimit, parseLimit } from ".";

/** What each phrase is understood as, or the reason for which it is refused. */
const understood = (name: string, phrase: string): string => {
  const c = characteristic(name) as Characteristic;
  const r = parseLimit(phrase, c);
  return (r.ok ? formatLimit(r.value, c.unit) : r.error).replace(/\u00a0/g, " ");
};

const LOAD = "boost.max-current"; // more is better
const PEAK = "boost.peak-efficiency"; // more is better, a ratio
const IDLE = "standby.current"; // less is better
const DIP = "path.dip"; // less is better, with no usual claim
const OUT = "boost.no-load-voltage"; // neither
const END = "charge.termination-current"; // neither

test.each([
  // Of what is better the more there is, a most is a promise.
  [LOAD, "max 3A", "at least 3 A"],
  [LOAD, "max. 3 A", "at least 3 A"],
  [LOAD, "Max: 3A", "at least 3 A"],
  [LOAD, "3A MAX!", "at least 3 A"],
  [LOAD, "3A (max)", "at least 3 A"],
  [LOAD, "3A maximum", "at least 3 A"],
  [LOAD, "up to 3A", "at least 3 A"],
  [LOAD, "Up to max. 3A!!", "at least 3 A"],
  [LOAD, "3 A cont", "at least 3 A"],
  [LOAD, "3A continuous", "at least 3 A"],
  [LOAD, "rated 3A", "at least 3 A"],
  [LOAD, "3A cont. max", "at least 3 A"],
  [LOAD, "min 3A", "at least 3 A"],
  [LOAD, "3 amps", "at least 3 A"],
  [LOAD, "3 Ampere", "at least 3 A"],
  [LOAD, "3a", "at least 3 A"],
  [LOAD, "500MA", "at least 500 mA"],
  [LOAD, "500 milliamps", "at least 500 mA"],
  [LOAD, "2A (3A peak)", "at least 2 A"],
  [LOAD, "2A, peak 3A", "at least 2 A"],
  [LOAD, "2A / 3A surge", "at least 2 A"],
  [LOAD, "0-3A", "at least 3 A"],
  [LOAD, "0.5–3 A", "at least 3 A"],
  [LOAD, "500mA-1.5A", "at least 1.5 A"],
  [LOAD, "5V/3A", "at least 3 A"],
  [LOAD, "5V 3A max", "at least 3 A"],
  [LOAD, "3A @ 5V", "at least 3 A"],
  [LOAD, "200 to 300 mA", "200 mA to 300 mA"],
  [LOAD, "3.0A±5%", "3 A ± 5 %"],
  [LOAD, "~3A", "3 A"],
  [LOAD, "approx. 3 A", "3 A"],
  [LOAD, "3A typ.", "3 A"],
  [LOAD, "≤ 3 A", "at most 3 A"],
  [LOAD, "at most 3 A", "at most 3 A"],
  [PEAK, "up to 96 %", "at least 96 %"],
  [PEAK, "96% max", "at least 96 %"],
  [PEAK, "96 % peak", "at least 96 %"],
  [PEAK, "85-94 %", "at least 85 %"],
  [PEAK, "typ. 94 %", "94 %"],
  ["standby.life", "up to 30d", "at least 30 d"],
  ["heat.max-ambient", "max 45 °C", "at least 45 °C"],
  // Of what is better the less there is, it is a ceiling.
  [IDLE, "max 50uA", "at most 50 µA"],
  [IDLE, "50uA max", "at most 50 µA"],
  [IDLE, "<50uA", "at most 50 µA"],
  [IDLE, "up to 50 µA", "at most 50 µA"],
  [IDLE, "50 ua", "at most 50 µA"],
  [IDLE, "20-50uA", "at most 50 µA"],
  [IDLE, "min. 20uA", "at least 20 µA"],
  [IDLE, "approx 50 microamps", "50 µA"],
  [DIP, "max 200mV", "at most 200 mV"],
  [DIP, "100-200 mV", "at most 200 mV"],
  ["boost.load-regulation", "max. 3 %", "at most 3 %"],
  ["path.handover-time", "max 20 ms", "at most 20 ms"],
  // Neither way: a ceiling, a nominal value, a range.
  [OUT, "max 5.2 V", "at most 5.2 V"],
  [OUT, "5V/3A", "5 V"],
  [OUT, "5 volts", "5 V"],
  [OUT, "4.5-5.5V", "4.5 V to 5.5 V"],
  [OUT, "5v typ", "5 V"],
  [END, "100mA", "100 mA"],
  ["standby.auto-off-delay", "30 s", "30 s"],
  ["standby.auto-off-delay", "2 min", "2 min 00 s"],
])("%s: “%s” is %s", (name, phrase, expected) => {
  expect(understood(name, phrase)).toBe(expected);
});

test.each([
  [LOAD, "3A peak", /for moments/],
  [LOAD, "peak 3A", /for moments/],
  [LOAD, "20W max", /takes amperes.*watts/],
  [LOAD, "a lot", /not a number/],
  [LOAD, "2A 3A", /./],
  [LOAD, "max", /./],
  [END, "100", /would be 100 A. Type the unit with it: 100 mA or 100 A/],
  [IDLE, "150", /150 mA or 150 A/],
  [PEAK, "94", /would be 9400 %/],
  [OUT, "5000", /5000 mV/],
])("%s: “%s” is refused, with the reason", (name, phrase, reason) => {
  const c = characteristic(name) as Characteristic;
  const r = parseLimit(phrase, c);
  expect(r.ok ? `read as ${formatLimit(r.value, c.unit)}` : r.error.replace(/\u00a0/g, " ")).toMatch(reason);
  expect(r.ok).toBe(false);
});
