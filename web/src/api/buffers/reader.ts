/** Reads the head of a buffer and its arrays, one after the other. */
export class Reader {
  private at: number
  readonly head: Record<string, unknown>
  private readonly buffer: ArrayBuffer

  constructor(buffer: ArrayBuffer, letters: string) {
    this.buffer = buffer
    const found = new TextDecoder().decode(new Uint8Array(buffer, 0, 4))
    if (found !== letters) throw new Error(`expected a ${letters} buffer, found ${found}`)
    const length = new DataView(buffer).getUint32(4, true)
    this.head = JSON.parse(new TextDecoder().decode(new Uint8Array(buffer, 8, length)))
    this.at = this.aligned(8 + length)
  }

  private aligned(at: number) {
    return (at + 3) & ~3
  }

  private take(bytes: number): number {
    const at = this.at
    if (at + bytes > this.buffer.byteLength) throw new Error('the buffer ends early')
    this.at = this.aligned(at + bytes)
    return at
  }

  f32 = (n: number) => new Float32Array(this.buffer, this.take(n * 4), n)
  i8 = (n: number) => new Int8Array(this.buffer, this.take(n), n)
  u32 = (n: number) => new Uint32Array(this.buffer, this.take(n * 4), n)
  i16 = (n: number) => new Int16Array(this.buffer, this.take(n * 2), n)
  u16 = (n: number) => new Uint16Array(this.buffer, this.take(n * 2), n)
  u8 = (n: number) => new Uint8Array(this.buffer, this.take(n), n)
}
