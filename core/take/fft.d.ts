declare module 'fft.js' {
  /** A fast Fourier transform of one size, a power of two. */
  export default class FFT {
    constructor(size: number);
    createComplexArray(): number[];
    /** Writes real and imaginary parts in turn; only the first half is filled. */
    realTransform(out: number[] | Float64Array, data: ArrayLike<number>): void;
  }
}
