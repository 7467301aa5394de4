import { crc32, deflateSync } from 'node:zlib'

const chunk = (name: string, data: Buffer) => {
  const body = Buffer.concat([Buffer.from(name, 'latin1'), data])
  const out = Buffer.alloc(8 + data.length + 4)
  out.writeUInt32BE(data.length, 0)
  body.copy(out, 4)
  out.writeUInt32BE(crc32(body), 8 + data.length)
  return out
}

/** A grey PNG of an upright edge of so many pixels' width in its middle, so that the test brings its own photograph. */
export function edgePNG(width: number, height: number, edge: number, seed: number): Buffer {
  const rows = Buffer.alloc(height * (width + 1))
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const rise = Math.min(1, Math.max(0, (x - width / 2) / edge + 0.5))
      rows[y * (width + 1) + 1 + x] = 50 + 140 * rise + ((x * 7 + y * 13 + seed) % 3)
    }
  const head = Buffer.alloc(13)
  head.writeUInt32BE(width, 0)
  head.writeUInt32BE(height, 4)
  head[8] = 8
  return Buffer.concat([
    Buffer.from('\x89PNG\r\n\x1a\n', 'latin1'),
    chunk('IHDR', head),
    chunk('IDAT', deflateSync(rows)),
    chunk('IEND', Buffer.alloc(0)),
  ])
}
