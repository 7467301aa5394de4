/** A closed box as a text STL, so that the test brings its own piece. */
export function boxSTL(x: number, y: number, z: number): string {
  const v = (i: number) => [i & 1 ? x : 0, i & 2 ? y : 0, i & 4 ? z : 0].join(' ')
  const faces = [
    [0, 2, 3, 1],
    [4, 5, 7, 6],
    [0, 1, 5, 4],
    [2, 6, 7, 3],
    [0, 4, 6, 2],
    [1, 3, 7, 5],
  ]
  const facet = (a: number, b: number, c: number) =>
    `facet normal 0 0 0\nouter loop\nvertex ${v(a)}\nvertex ${v(b)}\nvertex ${v(c)}\nendloop\nendfacet\n`
  return `solid box\n${faces.map(([a, b, c, d]) => facet(a!, b!, c!) + facet(a!, c!, d!)).join('')}endsolid box\n`
}
