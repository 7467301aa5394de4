/** Properties that a drawing takes from the page's styles and must carry with it. */
const carried = [
  'fill',
  'stroke',
  'stroke-width',
  'stroke-dasharray',
  'stroke-linecap',
  'opacity',
  'font-size',
  'font-weight',
  'text-anchor',
] as const

/** A drawing of a page as a file of its own: its styles in it, on the page's ground, with its title. */
export function standalone(svg: SVGSVGElement, title: string): string {
  const copy = svg.cloneNode(true) as SVGSVGElement
  const from = [svg, ...svg.querySelectorAll('*')]
  const to = [copy, ...copy.querySelectorAll('*')]
  from.forEach((e, i) => {
    const style = getComputedStyle(e)
    for (const name of carried) {
      const value = style.getPropertyValue(name)
      if (value) to[i]?.setAttribute(name, value)
    }
    to[i]?.removeAttribute('class')
  })
  const { width, height } = svg.viewBox.baseVal
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg')
  copy.setAttribute('width', String(width))
  copy.setAttribute('height', String(height))
  copy.setAttribute('font-family', 'sans-serif')
  const ground = document.createElementNS('http://www.w3.org/2000/svg', 'rect')
  ground.setAttribute('width', String(width))
  ground.setAttribute('height', String(height))
  ground.setAttribute('fill', getComputedStyle(document.documentElement).getPropertyValue('--sheet').trim() || 'white')
  const name = document.createElementNS('http://www.w3.org/2000/svg', 'title')
  name.textContent = title
  copy.prepend(name, ground)
  return new XMLSerializer().serializeToString(copy)
}

function save(data: Blob, name: string) {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(data)
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000)
}

const fileOf = (title: string) =>
  title
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 60) || 'picture'

export const saveSVG = (svg: SVGSVGElement, title: string) =>
  save(new Blob([standalone(svg, title)], { type: 'image/svg+xml' }), `${fileOf(title)}.svg`)

/** Twice the drawing's own size, so that it is sharp in print. */
export async function savePNG(svg: SVGSVGElement, title: string) {
  const { width, height } = svg.viewBox.baseVal
  const picture = new Image()
  const url = URL.createObjectURL(new Blob([standalone(svg, title)], { type: 'image/svg+xml' }))
  try {
    picture.src = url
    await picture.decode()
    const canvas = document.createElement('canvas')
    canvas.width = 2 * width
    canvas.height = 2 * height
    canvas.getContext('2d')?.drawImage(picture, 0, 0, canvas.width, canvas.height)
    const png = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/png'))
    if (png) save(png, `${fileOf(title)}.png`)
  } finally {
    URL.revokeObjectURL(url)
  }
}
