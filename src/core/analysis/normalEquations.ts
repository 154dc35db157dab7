import { Matrix, solve } from 'ml-matrix';

/** Least squares by sums: rows are added one by one, so that thousands of them need no matrix of their own. */
export class NormalEquations {
  /** The next row; filled before `add`. */
  readonly row: Float64Array;
  private readonly sums: Float64Array;
  private readonly right: Float64Array;

  constructor(private readonly unknowns: number) {
    this.row = new Float64Array(unknowns);
    this.sums = new Float64Array(unknowns * unknowns);
    this.right = new Float64Array(unknowns);
  }

  /** Adds `row` with what it ought to give. */
  add(right: number): void {
    const { row, sums, unknowns: n } = this;
    for (let i = 0; i < n; i++) {
      const r = row[i]!;
      this.right[i]! += r * right;
      for (let j = 0; j <= i; j++) sums[n * i + j]! += r * row[j]!;
    }
  }

  /** Rows' transpose times rows. */
  get normal(): Matrix {
    const n = this.unknowns;
    const at = (i: number, j: number) => this.sums[j <= i ? n * i + j : n * j + i]!;
    return new Matrix(Array.from({ length: n }, (_, i) => Array.from({ length: n }, (__, j) => at(i, j))));
  }

  /** The least-squares solution, by singular values; null where none is finite. */
  solve(): number[] | null {
    const x = solve(this.normal, Matrix.columnVector([...this.right]), true).to1DArray();
    return x.every(Number.isFinite) ? x : null;
  }
}
