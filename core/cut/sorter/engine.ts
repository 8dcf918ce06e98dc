import { installedKernels, placesIn, type PlaneKernel } from '../../kernels/kernels.ts';

/** A layer's planes in an engine's memory: where they begin, in values, and how far apart they lie. */
export interface Layer {
  at: number;
  channels: number;
  width: number;
  height: number;
  /** Values from one plane to the next, a multiple of four; what lies beyond width × height is filled with anything. */
  stride: number;
}

/** How a layer's result is written: as it is, no less than zero, or that added to what stands there. */
export const Written = { plain: 0, rectified: 1, added: 3 } as const;
type Written = (typeof Written)[keyof typeof Written];

/**
 * The few operations that the network is made of, on one memory of single precision. Weights lie in it too, from
 * `weightsAt` on.
 */
export interface Engine {
  readonly memory: Float32Array;
  readonly weightsAt: number;
  depthwise(source: Layer, out: Layer, weights: number): void;
  pointwise(sources: readonly Layer[], out: Layer, weights: number, written: Written): void;
  halve(source: Layer, out: Layer): void;
  /** Adds the source, drawn smoothly over twice its size, to `out`. */
  raise(source: Layer, out: Layer): void;
  rectify(layer: Layer): void;
}

/**
 * Compiled where a kernel is installed, otherwise in plain code; the results are the same.
 * @param values room for planes.
 */
export function createEngine(weights: Float32Array, values: number): Engine {
  const kernel = installedKernels()?.planes;
  const engine = kernel ? new CompiledEngine(kernel, weights.length, values) : new PlainEngine(weights.length, values);
  engine.memory.set(weights, engine.weightsAt);
  return engine;
}

class CompiledEngine implements Engine {
  readonly memory: Float32Array;
  readonly weightsAt: number;
  private readonly base: number;

  constructor(
    private readonly kernel: PlaneKernel,
    weights: number,
    values: number,
  ) {
    const [base] = placesIn(kernel, (values + weights) * 4);
    this.base = base;
    this.memory = new Float32Array(kernel.memory.buffer, base, values + weights);
    this.weightsAt = values;
  }

  private byte(at: number): number {
    return this.base + at * 4;
  }

  depthwise(source: Layer, out: Layer, weights: number): void {
    this.kernel.depthwise(
      this.byte(source.at),
      this.byte(out.at),
      source.channels,
      source.width,
      source.height,
      source.stride * 4,
      this.byte(weights),
    );
  }

  pointwise([first, second]: readonly Layer[], out: Layer, weights: number, written: Written): void {
    this.kernel.pointwise(
      this.byte(first.at),
      first.channels,
      second ? this.byte(second.at) : 0,
      second?.channels ?? 0,
      this.byte(out.at),
      out.channels,
      out.stride,
      out.stride * 4,
      this.byte(weights),
      written,
    );
  }

  halve(source: Layer, out: Layer): void {
    this.kernel.halve(
      this.byte(source.at),
      this.byte(out.at),
      source.channels,
      source.width,
      source.height,
      source.stride * 4,
      out.stride * 4,
    );
  }

  raise(source: Layer, out: Layer): void {
    this.kernel.raise(
      this.byte(source.at),
      this.byte(out.at),
      source.channels,
      source.width,
      source.height,
      source.stride * 4,
      out.stride * 4,
    );
  }

  rectify({ at, channels, stride }: Layer): void {
    this.kernel.rectify(this.byte(at), channels * stride);
  }
}

const f = Math.fround;

/** The same operations in the same order as core/kernels/assembly/network.ts. */
class PlainEngine implements Engine {
  readonly memory: Float32Array;
  readonly weightsAt: number;

  constructor(weights: number, values: number) {
    this.memory = new Float32Array(values + weights);
    this.weightsAt = values;
  }

  depthwise(source: Layer, out: Layer, weights: number): void {
    const { memory } = this;
    const { channels, width, height } = source;
    for (let c = 0; c < channels; c++) {
      const from = source.at + c * source.stride;
      const taps = weights + c * 9;
      const bias = memory[weights + channels * 9 + c];
      for (let y = 0, o = out.at + c * out.stride; y < height; y++) {
        for (let x = 0; x < width; x++, o++) {
          let sum = bias;
          for (let k = y > 0 ? -1 : 0; k <= (y < height - 1 ? 1 : 0); k++) {
            for (let j = x > 0 ? -1 : 0; j <= (x < width - 1 ? 1 : 0); j++)
              sum = f(sum + f(memory[taps + (k + 1) * 3 + j + 1] * memory[from + (y + k) * width + x + j]));
          }
          memory[o] = sum;
        }
      }
    }
  }

  pointwise(sources: readonly Layer[], out: Layer, weights: number, written: Written): void {
    const { memory } = this;
    const planes = sources.flatMap(({ at, channels, stride }) =>
      Array.from({ length: channels }, (_, c) => at + c * stride),
    );
    const biases = weights + planes.length * out.channels;
    for (let k = 0; k < out.channels; k++) {
      const w = weights + k * planes.length;
      for (let p = 0, o = out.at + k * out.stride; p < out.stride; p++, o++) {
        let sum = memory[biases + k];
        for (let n = 0; n < planes.length; n++) sum = f(sum + f(memory[w + n] * memory[planes[n] + p]));
        if (written !== Written.plain && sum < 0) sum = 0;
        memory[o] = written === Written.added ? memory[o] + sum : sum;
      }
    }
  }

  halve(source: Layer, out: Layer): void {
    const { memory } = this;
    const { channels, width } = source;
    for (let c = 0; c < channels; c++) {
      for (let y = 0, o = out.at + c * out.stride; y < out.height; y++) {
        for (let x = 0, i = source.at + c * source.stride + 2 * y * width; x < out.width; x++, i += 2, o++) {
          memory[o] = f(f(f(memory[i] + memory[i + 1]) + memory[i + width]) + memory[i + width + 1]) * 0.25;
        }
      }
    }
  }

  raise(source: Layer, out: Layer): void {
    const { memory } = this;
    const { channels, width, height } = source;
    const between = (own: number, beside: number): number => f(f(own * 0.75) + f(beside * 0.25));
    for (let c = 0; c < channels; c++) {
      const from = source.at + c * source.stride;
      for (let y = 0; y < 2 * height; y++) {
        const near = from + (y >> 1) * width;
        const far = from + (y & 1 ? Math.min(height - 1, (y >> 1) + 1) : Math.max(0, (y >> 1) - 1)) * width;
        let o = out.at + c * out.stride + y * 2 * width;
        let before = between(memory[near], memory[far]);
        let at = before;
        for (let x = 0; x < width; x++, o += 2) {
          const next = Math.min(width - 1, x + 1);
          const after = between(memory[near + next], memory[far + next]);
          memory[o] += between(at, before);
          memory[o + 1] += between(at, after);
          before = at;
          at = after;
        }
      }
    }
  }

  rectify({ at, channels, stride }: Layer): void {
    const { memory } = this;
    for (let p = at; p < at + channels * stride; p++) if (memory[p] < 0) memory[p] = 0;
  }
}
