/** One cell of a colour script: stripes with the shares of a picture's colours, or none where there is no picture. */
export interface Cell {
  x: number;
  width: number;
  stripes: { x: number; width: number; hex: string }[] | null;
}

type Palette = readonly (readonly [hex: string, share: number] | readonly (string | number)[])[];

/** Cells side by side in a width; a gap parts them while they are few. */
export function cells(palettes: (Palette | undefined)[], width: number, gap: number): Cell[] {
  const step = width / Math.max(1, palettes.length);
  return palettes.map((palette, i) => {
    const cell = { x: i * step, width: Math.max(1, step - gap) };
    if (!palette) return { ...cell, stripes: null };
    const whole = palette.reduce((sum, [, share]) => sum + Number(share), 0) || 1;
    let { x } = cell;
    const stripes = palette.map(([hex, share]) => {
      const stripe = { x, width: (cell.width * Number(share)) / whole, hex: String(hex) };
      x += stripe.width;
      return stripe;
    });
    return { ...cell, stripes };
  });
}

/** Draw cells into a canvas of that height; `empty` is the colour of the frame of a cell without a picture. */
export function draw(canvas: HTMLCanvasElement, drawn: Cell[], width: number, height: number, empty: string) {
  const dense = devicePixelRatio || 1;
  canvas.width = Math.round(width * dense);
  canvas.height = Math.round(height * dense);
  const pen = canvas.getContext('2d');
  if (!pen) return;
  pen.scale(dense, dense);
  pen.strokeStyle = empty;
  pen.setLineDash([3, 3]);
  for (const cell of drawn) {
    if (!cell.stripes) pen.strokeRect(cell.x + 0.5, 0.5, Math.max(0.5, cell.width - 1), height - 1);
    for (const { x, width: wide, hex } of cell.stripes ?? []) {
      pen.fillStyle = hex;
      pen.fillRect(x, 0, wide, height);
    }
  }
}
