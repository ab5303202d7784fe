/** A transform of places: x' = a x + b y + c, y' = d x + e y + f. */
export type Affine = readonly [number, number, number, number, number, number];

export const SAME: Affine = [1, 0, 0, 0, 1, 0];

export function times(one: Affine, other: Affine): Affine {
  const [a, b, c, d, e, f] = one;
  const [g, h, i, j, k, l] = other;
  return [a * g + b * j, a * h + b * k, a * i + b * l + c, d * g + e * j, d * h + e * k, d * i + e * l + f];
}

export function inverse([a, b, c, d, e, f]: Affine): Affine {
  const det = a * e - b * d;
  return [e / det, -b / det, (b * f - c * e) / det, -d / det, a / det, (c * d - a * f) / det];
}

export function at([a, b, c, d, e, f]: Affine, x: number, y: number): [number, number] {
  return [a * x + b * y + c, d * x + e * y + f];
}

/** How much larger things become. */
export function scaleOf([a, , , d]: Affine): number {
  return Math.hypot(a, d);
}

export interface Size {
  width: number;
  height: number;
}

/** How a picture is laid on another so that it fills it as far as its form allows, in the middle. */
export function onPage(over: Size, ground: Size): Affine {
  const f = Math.min(ground.width / over.width, ground.height / over.height);
  return [f, 0, (ground.width - f * over.width) / 2, 0, f, (ground.height - f * over.height) / 2];
}

/** What of a picture is seen in a window, as whole tiles of a level: first and last column and row; null where nothing is. */
export function tilesSeen(picture: Size, toScreen: Affine, screen: Size, level: number, tile: number): [number, number, number, number] | null {
  const back = inverse(toScreen);
  const corners = [[0, 0], [screen.width, 0], [0, screen.height], [screen.width, screen.height]].map(([x, y]) => at(back, x!, y!));
  const px = tile * 2 ** level;
  const part = (values: number[], size: number): [number, number] => [Math.max(0, Math.min(...values)), Math.min(size - 1e-6, Math.max(...values))];
  const [x0, x1] = part(corners.map((c) => c[0]), picture.width);
  const [y0, y1] = part(corners.map((c) => c[1]), picture.height);
  return x0 > x1 || y0 > y1 ? null : [Math.floor(x0 / px), Math.floor(x1 / px), Math.floor(y0 / px), Math.floor(y1 / px)];
}

/** The coarsest level whose pixels are not larger than those of the screen. */
export function levelFor(scale: number, picture: Size): number {
  const last = Math.max(0, Math.ceil(Math.log2(Math.max(picture.width, picture.height) / 256)));
  return Math.min(last, Math.max(0, Math.floor(Math.log2(1 / scale) + 0.01)));
}
