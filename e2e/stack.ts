import { crc32, deflateSync } from 'node:zlib'

/** A rectangle of lit pixels. */
export interface Lit {
  x: number
  y: number
  wide: number
  high: number
}

function chunk(kind: string, body: Buffer) {
  const head = Buffer.from(`....${kind}`, 'latin1')
  head.writeUInt32BE(body.length, 0)
  const tail = Buffer.alloc(4)
  tail.writeUInt32BE(crc32(Buffer.concat([head.subarray(4), body])), 0)
  return Buffer.concat([head, body, tail])
}

/** A grey PNG picture of a layer. */
export function layerPNG(width: number, height: number, lit: Lit[]) {
  const header = Buffer.alloc(13)
  header.writeUInt32BE(width, 0)
  header.writeUInt32BE(height, 4)
  header[8] = 8
  const rows = Buffer.alloc((width + 1) * height)
  for (const r of lit)
    for (let y = r.y; y < r.y + r.high; y++)
      rows.fill(255, y * (width + 1) + 1 + r.x, y * (width + 1) + 1 + r.x + r.wide)
  const signature = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a])
  return Buffer.concat([
    signature,
    chunk('IHDR', header),
    chunk('IDAT', deflateSync(rows, { level: 1 })),
    chunk('IEND', Buffer.alloc(0)),
  ])
}

/** A zip file of what is given, not packed further. */
export function zipOf(files: { name: string; body: Buffer }[]) {
  const parts: Buffer[] = []
  const directory: Buffer[] = []
  let at = 0
  for (const { name, body } of files) {
    const title = Buffer.from(name)
    const facts = Buffer.alloc(22)
    facts.writeUInt16LE(20, 0)
    facts.writeUInt32LE(crc32(body), 10)
    facts.writeUInt32LE(body.length, 14)
    facts.writeUInt32LE(body.length, 18)
    const lengths = Buffer.alloc(4)
    lengths.writeUInt16LE(title.length, 0)
    const local = Buffer.concat([Buffer.from('PK\x03\x04', 'latin1'), facts, lengths, title, body])
    const place = Buffer.alloc(14)
    place.writeUInt32LE(at, 10)
    directory.push(
      Buffer.concat([
        Buffer.from('PK\x01\x02\x14\x00', 'latin1'),
        facts,
        lengths.subarray(0, 2),
        Buffer.alloc(2),
        place,
        title,
      ]),
    )
    parts.push(local)
    at += local.length
  }
  const listed = Buffer.concat(directory)
  const end = Buffer.alloc(18)
  end.writeUInt16LE(files.length, 4)
  end.writeUInt16LE(files.length, 6)
  end.writeUInt32LE(listed.length, 8)
  end.writeUInt32LE(at, 12)
  return Buffer.concat([...parts, listed, Buffer.from('PK\x05\x06', 'latin1'), end])
}
