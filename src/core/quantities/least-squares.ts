import { LuDecomposition, Matrix, QrDecomposition } from "ml-matrix";
import { ELEMENTS } from "./elements";

const { nth } = ELEMENTS;

export interface PolynomialFit {
  /** c[0] + c[1]·x + c[2]·x² … */
  readonly coefficients: readonly number[];
  /** Each observed y less the fitted one. */
  readonly residuals: readonly number[];
  /**
   * Row j gives ∂c[j]/∂y[i]: the fit is linear in y, so the readings' error sources pass through it exactly.
   */
  readonly sensitivity: readonly (readonly number[])[];
}

/**
 * Least squares polynomial of the given degree by Householder reflections (QR) of its matrix, weights optional: the matrix has full rank,
 * so that its pseudo-inverse is R⁻¹Qᵀ, at a third of the cost of singular values.
 *
 * x and y have the same length n; needs at least degree + 1 distinct x, else null (as for any non-finite entry).
 * x is scaled internally so that milliamps and amperes are conditioned alike.
 */
export function fitPolynomial(
  x: readonly number[],
  y: readonly number[],
  degree: number,
  weights?: readonly number[],
): PolynomialFit | null {
  const n = x.length;
  const m = degree + 1;
  if (n !== y.length || (weights && weights.length !== n))
    throw new RangeError(`fitPolynomial: lengths differ (${n}, ${y.length})`);
  if (![...x, ...y, ...(weights ?? [])].every(Number.isFinite)) return null;
  if (new Set(x).size < m) return null;
  const xs = x.reduce((most, v) => Math.max(most, Math.abs(v)), 0) || 1;
  const root = x.map((_, i) => Math.sqrt(weights ? nth(weights, i) : 1));
  const basis = new Matrix(n, m);
  for (let i = 0; i < n; i++) for (let j = 0; j < m; j++) basis.set(i, j, nth(root, i) * (nth(x, i) / xs) ** j);
  const qr = new QrDecomposition(basis);
  if (!qr.isFullRank()) return null;
  const [q, r] = [qr.orthogonalMatrix, qr.upperTriangularMatrix];
  const inverse = new Matrix(m, n);
  for (let i = 0; i < n; i++)
    // Back substitution: the last coefficient first.
    for (let j = m - 1; j >= 0; j--) {
      let v = q.get(i, j);
      for (let l = j + 1; l < m; l++) v -= r.get(j, l) * inverse.get(l, i);
      inverse.set(j, i, v / r.get(j, j));
    }
  const sensitivity = inverse.to2DArray().map((row, j) => row.map((v, i) => (v * nth(root, i)) / xs ** j));
  const coefficients = sensitivity.map((row) => row.reduce((s, v, i) => s + v * nth(y, i), 0));
  const residuals = x.map((xi, i) => nth(y, i) - coefficients.reduce((s, c, j) => s + c * xi ** j, 0));
  return { coefficients, residuals, sensitivity };
}

export interface LineFit {
  readonly intercept: number;
  readonly slope: number;
  /** Root mean square of the residuals. */
  readonly scatter: number;
}

/**
 * Straight line y = intercept + slope·x by least squares, for as many points as a log may have. Null for fewer than two
 * different x or any non-finite entry. Worked: (0, 1), (1, 3), (2, 5) gives intercept 1, slope 2, scatter 0.
 */
export function fitLine(x: ArrayLike<number>, y: ArrayLike<number>): LineFit | null {
  const n = x.length;
  if (n !== y.length) throw new RangeError(`fitLine: lengths differ (${n}, ${y.length})`);
  let [mx, my] = [0, 0];
  for (let k = 0; k < n; k++) {
    mx += nth(x, k);
    my += nth(y, k);
  }
  mx /= n;
  my /= n;
  let [xx, xy] = [0, 0];
  for (let k = 0; k < n; k++) {
    const d = nth(x, k) - mx;
    xx += d * d;
    xy += d * (nth(y, k) - my);
  }
  const slope = xy / xx;
  if (!Number.isFinite(slope)) return null;
  const intercept = my - slope * mx;
  let squares = 0;
  for (let k = 0; k < n; k++) squares += (nth(y, k) - intercept - slope * nth(x, k)) ** 2;
  return { intercept, slope, scatter: Math.sqrt(squares / n) };
}

/** A pivot so small, of a matrix whose entries are near one, is zero to working precision. */
const NO_PIVOT = 1e-14;

/** Inverse by LU decomposition with partial pivoting; null where the matrix is singular to working precision. */
export function invert(a: readonly (readonly number[])[]): number[][] | null {
  const lu = new LuDecomposition(new Matrix(a.map((row) => [...row])));
  if (lu.upperTriangularMatrix.diagonal().some((pivot) => Math.abs(pivot) < NO_PIVOT)) return null;
  return lu.solve(Matrix.eye(a.length)).to2DArray();
}
