package optics

import (
	"cmp"
	"fmt"
	"image"
	"image/color"
	"math"
	"slices"

	"ojime/internal/say"
)

// grid holds a value for each cell of a raster that begins at x, y (mm).
type grid struct {
	x, y, dx, dy float64
	nx, ny       int
	v            []float64
}

// cover is the share of each cell that the outlines cover: exact along x, by
// sub rows along y.
func cover(outlines []Polygon, g grid, sub int) []float64 {
	type crossing struct {
		x       float64
		winding int
	}
	lines := make([][]crossing, g.ny*sub)
	height := g.dy / float64(sub)
	for _, o := range outlines {
		for i, a := range o {
			b := o[(i+1)%len(o)]
			turn := 1
			if b[1] < a[1] {
				a, b, turn = b, a, -1
			}
			first, last := math.Ceil((a[1]-g.y)/height-0.5), math.Ceil((b[1]-g.y)/height-0.5)
			for j := int(max(0, first)); j < int(min(float64(len(lines)), last)); j++ {
				y := g.y + (float64(j)+0.5)*height
				lines[j] = append(lines[j], crossing{a[0] + (b[0]-a[0])*(y-a[1])/(b[1]-a[1]), turn})
			}
		}
	}
	out := make([]float64, g.nx*g.ny)
	for j, line := range lines {
		slices.SortFunc(line, func(a, b crossing) int { return cmp.Compare(a.x, b.x) })
		row := out[j/sub*g.nx : (j/sub+1)*g.nx]
		n, from := 0, 0.0
		for _, c := range line {
			before := n
			if n += c.winding; before == 0 {
				from = c.x
			} else if n == 0 {
				addSpan(row, (from-g.x)/g.dx, (c.x-g.x)/g.dx, 1/float64(sub))
			}
		}
	}
	return out
}

// addSpan adds a stretch, in cells, to a row.
func addSpan(row []float64, from, to, weight float64) {
	from, to = max(0, from), min(float64(len(row)), to)
	for i := int(from); i < len(row) && float64(i) < to; i++ {
		row[i] += weight * (min(to, float64(i+1)) - max(from, float64(i)))
	}
}

// finer splits every cell into n by n.
func (g *grid) finer(n int) *grid {
	out := &grid{x: g.x, y: g.y, dx: g.dx / float64(n), dy: g.dy / float64(n), nx: g.nx * n, ny: g.ny * n, v: make([]float64, g.nx*n*g.ny*n)}
	for j := range out.ny {
		for i := range out.nx {
			out.v[j*out.nx+i] = g.v[j/n*g.nx+i/n]
		}
	}
	return out
}

// blur spreads by a Gaussian of so many cells along x and y; beyond the edge
// the values go on as they are at it.
func (g *grid) blur(sigmaX, sigmaY float64) {
	line := make([]float64, max(g.nx, g.ny))
	along := func(n, count, stride, next int, sigma float64) {
		kernel := gaussian(sigma)
		if len(kernel) == 1 {
			return
		}
		half := len(kernel) / 2
		for k := range count {
			for i := range n {
				line[i] = g.v[k*next+i*stride]
			}
			for i := range n {
				var sum float64
				for d, w := range kernel {
					sum += w * line[max(0, min(n-1, i+d-half))]
				}
				g.v[k*next+i*stride] = sum
			}
		}
	}
	along(g.nx, g.ny, 1, g.nx, sigmaX)
	along(g.ny, g.nx, g.nx, 1, sigmaY)
}

// gaussian is a kernel of odd length that sums to 1, cut at four deviations.
func gaussian(sigma float64) []float64 {
	half := int(math.Ceil(4 * sigma))
	if sigma < 0.05 {
		half = 0
	}
	out := make([]float64, 2*half+1)
	var sum float64
	for i := range out {
		d := float64(i - half)
		out[i] = 1
		if half > 0 {
			out[i] = math.Exp(-d * d / (2 * sigma * sigma))
		}
		sum += out[i]
	}
	for i := range out {
		out[i] /= sum
	}
	return out
}

// at is the value at a place, between the middles of cells.
func (g *grid) at(p [2]float64) float64 {
	u, v := (p[0]-g.x)/g.dx-0.5, (p[1]-g.y)/g.dy-0.5
	i, j := max(0, min(g.nx-2, int(math.Floor(u)))), max(0, min(g.ny-2, int(math.Floor(v))))
	s, t := max(0, min(1, u-float64(i))), max(0, min(1, v-float64(j)))
	c := g.v[j*g.nx+i:]
	return (1-t)*((1-s)*c[0]+s*c[1]) + t*((1-s)*c[g.nx]+s*c[g.nx+1])
}

func (g *grid) holds(p [2]float64, margin float64) bool {
	return p[0] >= g.x+margin && p[1] >= g.y+margin && p[0] <= g.x+g.dx*float64(g.nx)-margin && p[1] <= g.y+g.dy*float64(g.ny)-margin
}

// edge is how far out of a point the value falls through the threshold,
// nearest first; false where it does not within reach.
func (g *grid) edge(at, out [2]float64, reach, threshold float64) (float64, bool) {
	value := func(d float64) float64 { return g.at([2]float64{at[0] + d*out[0], at[1] + d*out[1]}) }
	step := min(g.dx, g.dy) / 2
	for d := 0.0; d < reach; d += step {
		for _, from := range []float64{d, -d - step} {
			a, b := value(from), value(from+step)
			if a >= threshold && b < threshold {
				return from + step*(a-threshold)/(a-b), true
			}
		}
	}
	return 0, false
}

// Colours of the picture; they read alike on light and dark pages.
var (
	unlit   = color.RGBA{0x20, 0x28, 0x2e, 0xff}
	lit     = color.RGBA{0xe8, 0xee, 0xf1, 0xff}
	line    = color.RGBA{0x6c, 0x7a, 0x84, 0xff}
	drawn   = color.RGBA{0x2b, 0x8c, 0xff, 0xff}
	setEdge = color.RGBA{0xff, 0x8a, 0x1f, 0xff}
)

// pictureWidth is about how wide the picture is, in its own pixels.
const pictureWidth = 720

// draw shows the pixels (or the dose of a laser) with the drawn outline and the
// edge at which resin sets; the back of the plate is up.
func draw(outlines []Polygon, g, dose *grid, light Light, view View) *image.RGBA {
	scale := pictureWidth / view.WidthMM
	w, h := pictureWidth, max(1, int(view.DepthMM*scale))
	out := image.NewRGBA(image.Rect(0, 0, w, h))
	nominal := cover(outlines, grid{x: view.XMM, y: view.YMM, dx: 1 / scale, dy: 1 / scale, nx: w + 1, ny: h + 1}, 1)
	inside := func(i, j int) bool { return nominal[j*(w+1)+i] >= 0.5 }
	place := func(i, j int) [2]float64 {
		return [2]float64{view.XMM + (float64(i)+0.5)/scale, view.YMM + (float64(j)+0.5)/scale}
	}
	sets := func(i, j int) bool { return dose.at(place(i, j)) >= light.Threshold }
	showGrid := light.SpotUM == nil && g.dx*scale >= 5
	for j := range h {
		for i := range w {
			p := place(i, j)
			cx, cy := int((p[0]-g.x)/g.dx), int((p[1]-g.y)/g.dy)
			value := dose.at(p)
			if light.SpotUM == nil {
				value = g.v[min(cy, g.ny-1)*g.nx+min(cx, g.nx-1)]
			}
			c := mix(unlit, lit, value)
			onLine := int((place(i+1, j)[0]-g.x)/g.dx) != cx || int((place(i, j+1)[1]-g.y)/g.dy) != cy
			if showGrid && onLine {
				c = mix(c, line, 0.5)
			}
			if inside(i, j) != inside(i+1, j) || inside(i, j) != inside(i, j+1) {
				c = drawn
			}
			if s := sets(i, j); s != sets(i+1, j) || s != sets(i, j+1) {
				c = setEdge
			}
			out.SetRGBA(i, h-1-j, c)
		}
	}
	return out
}

func mix(a, b color.RGBA, t float64) color.RGBA {
	t = max(0, min(1, t))
	part := func(x, y uint8) uint8 { return uint8(math.Round(float64(x) + t*(float64(y)-float64(x)))) }
	return color.RGBA{part(a.R, b.R), part(a.G, b.G), part(a.B, b.B), 0xff}
}

// assumptions says in words what the prediction rests on.
func (l Light) assumptions() []string {
	var out []string
	if l.SpotUM != nil {
		out = append(out, fmt.Sprintf("A round Gaussian spot of %s µm (at 1/e²), hatched densely and compensated so that straight edges come true.", say.Figures(*l.SpotUM, 6)))
	} else {
		grey := fmt.Sprintf("%d grey levels", l.GreyLevels)
		if l.GreyLevels == 2 {
			grey = "pixels on or off (no anti-aliasing): on from half covered"
		} else if l.BlurPX > 0 {
			grey += fmt.Sprintf(" after a blur of %s pixels", say.Figures(l.BlurPX, 6))
		}
		out = append(out, fmt.Sprintf("Square pixels of %s × %s µm without gaps; %s.", say.Figures(*l.PitchXUM, 4), say.Figures(*l.PitchYUM, 4), grey))
	}
	return append(out,
		fmt.Sprintf("Light and resin spread every dose by a Gaussian of %s µm (assumed, not measured).", say.Figures(l.SpreadUM, 6)),
		fmt.Sprintf("Resin sets at %s %% of the full dose. Shrinkage, peel and stray light are not in it.", say.Figures(100*l.Threshold, 6)))
}
