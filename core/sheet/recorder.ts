import { RenderContext, type TextMeasure } from 'vexflow/bravura';
import { type SheetItem, shape, text, textWidth } from './paper';

const round = (value: number) => Number(value.toFixed(2));
/** A point of a font to the pixels in which the engraver measures. */
const POINT = 4 / 3;

/** Draws nothing: writes down what is drawn, as paths and letters of a sheet. */
export class Recorder extends RenderContext {
  readonly items: SheetItem[] = [];
  private d = '';
  private fillGrey: number | null = 0;
  private strokeGrey = 0;
  private lineWidth = 1;
  private fontSize = 10;
  private kept: { fill: number | null; stroke: number; width: number; font: number }[] = [];

  /** @param points to which one of the engraver's units is drawn */
  constructor(private readonly points: number) {
    super();
  }

  private at(x: number, y: number): string {
    return `${round(x * this.points)} ${round(y * this.points)}`;
  }

  clear(): void {
    this.items.length = 0;
  }
  setFillStyle(style: string): this {
    this.fillGrey = greyOf(style);
    return this;
  }
  setStrokeStyle(style: string): this {
    this.strokeGrey = greyOf(style) ?? 0;
    return this;
  }
  setLineWidth(width: number): this {
    this.lineWidth = width;
    return this;
  }
  setBackgroundFillStyle(): this {
    return this;
  }
  setShadowColor(): this {
    return this;
  }
  setShadowBlur(): this {
    return this;
  }
  setLineCap(): this {
    return this;
  }
  setLineDash(): this {
    return this;
  }
  scale(): this {
    return this;
  }
  resize(): this {
    return this;
  }
  rect(x: number, y: number, width: number, height: number): this {
    this.d += `M${this.at(x, y)}L${this.at(x + width, y)}L${this.at(x + width, y + height)}L${this.at(x, y + height)}Z`;
    return this;
  }
  fillRect(x: number, y: number, width: number, height: number): this {
    return this.beginPath().rect(x, y, width, height).fill();
  }
  /** Paper that is left white. */
  clearRect(x: number, y: number, width: number, height: number): this {
    this.beginPath().rect(x, y, width, height);
    this.items.push(shape(this.d, 1));
    return this;
  }
  beginPath(): this {
    this.d = '';
    return this;
  }
  moveTo(x: number, y: number): this {
    this.d += `M${this.at(x, y)}`;
    return this;
  }
  lineTo(x: number, y: number): this {
    this.d += `L${this.at(x, y)}`;
    return this;
  }
  bezierCurveTo(ax: number, ay: number, bx: number, by: number, x: number, y: number): this {
    this.d += `C${this.at(ax, ay)} ${this.at(bx, by)} ${this.at(x, y)}`;
    return this;
  }
  quadraticCurveTo(ax: number, ay: number, x: number, y: number): this {
    this.d += `Q${this.at(ax, ay)} ${this.at(x, y)}`;
    return this;
  }
  /** Whole circles are all that is asked for: the dots of notes. */
  arc(x: number, y: number, radius: number): this {
    const r = round(radius * this.points);
    const [left, right] = [this.at(x - radius, y), this.at(x + radius, y)];
    this.d += `M${left}A${r} ${r} 0 1 0 ${right}A${r} ${r} 0 1 0 ${left}Z`;
    return this;
  }
  closePath(): this {
    this.d += 'Z';
    return this;
  }
  fill(): this {
    if (this.d !== '' && this.fillGrey !== null) this.items.push(shape(this.d, this.fillGrey));
    return this;
  }
  stroke(): this {
    if (this.d === '') return this;
    this.items.push(shape(this.d, null, this.strokeGrey, round(this.lineWidth * this.points)));
    return this;
  }
  fillText(words: string, x: number, y: number): this {
    const size = this.fontSize * POINT * this.points;
    this.items.push(
      text(x * this.points, y * this.points, words, size, { grey: this.fillGrey ?? 0 }),
    );
    return this;
  }
  measureText(words: string): TextMeasure {
    const height = this.fontSize * POINT;
    return { x: 0, y: 0, width: textWidth(words, height, 'regular'), height };
  }
  setFont(font?: string | { size?: number | string }, size?: number | string): this {
    const asked = typeof font === 'object' ? font.size : size;
    const points = parseFloat(String(asked ?? ''));
    if (Number.isFinite(points)) this.fontSize = points;
    return this;
  }
  getFont(): string {
    return `${this.fontSize}pt sans-serif`;
  }
  save(): this {
    const { fillGrey: fill, strokeGrey: stroke, lineWidth: width, fontSize: font } = this;
    this.kept.push({ fill, stroke, width, font });
    return this;
  }
  restore(): this {
    const before = this.kept.pop();
    if (!before) return this;
    this.fillGrey = before.fill;
    this.strokeGrey = before.stroke;
    this.lineWidth = before.width;
    this.fontSize = before.font;
    return this;
  }
  openGroup(): null {
    return null;
  }
  closeGroup(): void {}
  add(): void {}

  get fillStyle(): string {
    return 'black';
  }
  set fillStyle(style: string) {
    this.setFillStyle(style);
  }
  get strokeStyle(): string {
    return 'black';
  }
  set strokeStyle(style: string) {
    this.setStrokeStyle(style);
  }
}

/** A colour as how light it is; null where it is none. */
function greyOf(style: string): number | null {
  if (style === 'none' || style === 'transparent') return null;
  if (style === 'white') return 1;
  const hex = /^#([\da-f]{2})/i.exec(style);
  return hex ? parseInt(hex[1]!, 16) / 255 : 0;
}
