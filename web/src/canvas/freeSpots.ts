/** Side of a square of the coarse grid in which what is drawn already is kept, px. */
const SQUARE = 6;

/** Where on a canvas something stands already, so that a word is not written over it. */
export class FreeSpots {
  private readonly across: number;
  private readonly down: number;
  private readonly taken: Uint8Array;

  constructor(width: number, height: number) {
    this.across = Math.max(Math.ceil(width / SQUARE), 1);
    this.down = Math.max(Math.ceil(height / SQUARE), 1);
    this.taken = new Uint8Array(this.across * this.down);
  }

  take(left: number, top: number, width: number, height: number): void {
    this.each(left, top, width, height, (at) => {
      this.taken[at] = 1;
      return true;
    });
  }

  isFree(left: number, top: number, width: number, height: number): boolean {
    return this.each(left, top, width, height, (at) => !this.taken[at]);
  }

  private each(
    left: number,
    top: number,
    width: number,
    height: number,
    look: (at: number) => boolean,
  ): boolean {
    const [x0, x1] = [
      Math.max(Math.floor(left / SQUARE), 0),
      Math.min(Math.floor((left + width) / SQUARE), this.across - 1),
    ];
    const [y0, y1] = [
      Math.max(Math.floor(top / SQUARE), 0),
      Math.min(Math.floor((top + height) / SQUARE), this.down - 1),
    ];
    for (let y = y0; y <= y1; y++)
      for (let x = x0; x <= x1; x++) if (!look(y * this.across + x)) return false;
    return true;
  }
}
