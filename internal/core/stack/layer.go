package stack

import (
	"encoding/binary"
	"fmt"
	"image"

	"ojime/internal/core/quantity"
)

// litFrom is the grey, 0–255, from which a pixel counts as lit where regions and their outline
// are looked at: half of full light.
const litFrom = 128

// mostStretches bounds the lit stretches of one layer: no layer of a print has as many, and they
// are what is held of it.
const mostStretches = 2_000_000

// stretch is a row's lit pixels from X0 up to, not including, X1.
type stretch struct{ y, x0, x1 int32 }

// Layer is what the pixels of one layer say. Areas are in pixels, a grey one counting as its share
// of full light; the outline is in sides of pixels.
type Layer struct {
	// LitPX is the lit area; GreyPX how many pixels are neither dark nor fully lit.
	LitPX  float64 `json:"lit_px"`
	GreyPX int64   `json:"grey_px"`
	// AcrossSides and AlongSides are the sides of pixels between lit (from half of full light)
	// and not lit, those that run along the rows and those that run across them.
	AcrossSides int64 `json:"across_sides"`
	AlongSides  int64 `json:"along_sides"`
	// Regions are those that hang together, corners included; Islands those of them of which
	// nothing lies over a lit pixel of the layer before, IslandPX the pixels of the largest.
	Regions  int   `json:"regions"`
	Islands  int   `json:"islands"`
	IslandPX int64 `json:"island_px"`
	// X0 to X1 and Y0 to Y1 hold all that is lit, the ends not included; all 0 where nothing is.
	X0 int `json:"x0"`
	X1 int `json:"x1"`
	Y0 int `json:"y0"`
	Y1 int `json:"y1"`
}

// read takes what one layer says of itself, and its stretches for the comparison with the next.
func read(m image.Image) (Layer, []stretch, error) {
	b := m.Bounds()
	var out Layer
	var all []stretch
	row := rows(m)
	var sum int64
	before := 0 // where the stretches of the row before begin
	for y := 0; y < b.Dy(); y++ {
		first := len(all)
		all = out.scan(row(y), y, all, &sum)
		if len(all) > mostStretches {
			return out, nil, quantity.Errorf("layers", "of more than %d separate stretches are no layers of a print; send the pictures that the printer shows", mostStretches)
		}
		shared := overlap(all[before:first], all[first:], y)
		out.AcrossSides += length(all[before:first]) + length(all[first:]) - 2*shared
		before = first
	}
	out.AcrossSides += length(all[before:])
	out.AlongSides = 2 * int64(len(all))
	out.LitPX = float64(sum) / 255
	return out, all, nil
}

// scan takes the lit stretches of a row, and its share of the layer's area, greys and extent.
func (l *Layer) scan(row []byte, y int, all []stretch, sum *int64) []stretch {
	start := -1
	for x := 0; x < len(row); {
		if start < 0 {
			if x = dark(row, x); x == len(row) {
				break
			}
		}
		v := row[x]
		if v > 0 {
			*sum += int64(v)
			if v < 255 {
				l.GreyPX++
			}
			l.reach(x, y)
		}
		if lit := v >= litFrom; lit && start < 0 {
			start = x
		} else if !lit && start >= 0 {
			all = append(all, stretch{int32(y), int32(start), int32(x)})
			start = -1
		}
		x++
		if start >= 0 {
			if full := bright(row, x); full > x {
				*sum += 255 * int64(full-x)
				l.reach(full-1, y)
				x = full
			}
		}
	}
	if start >= 0 {
		all = append(all, stretch{int32(y), int32(start), int32(len(row))})
	}
	return all
}

// reach widens the extent by a pixel.
func (l *Layer) reach(x, y int) {
	if l.X1 == 0 {
		l.X0, l.Y0 = x, y
	}
	l.X0, l.X1 = min(l.X0, x), max(l.X1, x+1)
	l.Y1 = y + 1
}

// dark is where, from x on, the first pixel is that is not dark: eight are looked at together.
func dark(row []byte, x int) int {
	for ; x+8 <= len(row) && binary.LittleEndian.Uint64(row[x:]) == 0; x += 8 {
	}
	for x < len(row) && row[x] == 0 {
		x++
	}
	return x
}

// bright is where, from x on, the first pixel is that is not fully lit.
func bright(row []byte, x int) int {
	for ; x+8 <= len(row) && binary.LittleEndian.Uint64(row[x:]) == 1<<64-1; x += 8 {
	}
	for x < len(row) && row[x] == 255 {
		x++
	}
	return x
}

func length(of []stretch) (px int64) {
	for _, s := range of {
		px += int64(s.x1 - s.x0)
	}
	return px
}

// overlap is how many pixels two rows, one above the other, share; none where the upper one is
// not the row before.
func overlap(above, below []stretch, y int) (px int64) {
	if len(above) == 0 || int(above[0].y) != y-1 {
		return 0
	}
	for i, j := 0, 0; i < len(above) && j < len(below); {
		if over := min(above[i].x1, below[j].x1) - max(above[i].x0, below[j].x0); over > 0 {
			px += int64(over)
		}
		if above[i].x1 < below[j].x1 {
			i++
		} else {
			j++
		}
	}
	return px
}

// rows gives an image's rows as grey, 0–255: a coloured pixel is as bright as its brightest
// channel, since each may be a pixel of the panel.
func rows(m image.Image) func(y int) []byte {
	b := m.Bounds()
	if g, ok := m.(*image.Gray); ok {
		return func(y int) []byte { return g.Pix[y*g.Stride : y*g.Stride+b.Dx()] }
	}
	row := make([]byte, b.Dx())
	if p, ok := m.(*image.Paletted); ok {
		grey := make([]byte, 256)
		for i, c := range p.Palette {
			grey[i] = brightest(c.RGBA())
		}
		return func(y int) []byte {
			for x, i := range p.Pix[y*p.Stride : y*p.Stride+b.Dx()] {
				row[x] = grey[i]
			}
			return row
		}
	}
	return func(y int) []byte {
		for x := range row {
			row[x] = brightest(m.At(b.Min.X+x, b.Min.Y+y).RGBA())
		}
		return row
	}
}

// brightest is the brightest channel of a colour over black.
func brightest(r, g, b, _ uint32) byte { return byte(max(r, g, b) >> 8) }

// islands counts the regions of a layer and those of them that nothing of the layer before holds.
// Where there is none before, every region lies on the plate.
func (l *Layer) islands(now, before []stretch, first bool) {
	parent := make([]int32, len(now))
	for i := range parent {
		parent[i] = int32(i)
	}
	joinRows(now, parent)
	held := make([]bool, len(now))
	size := make([]int64, len(now))
	for i, s := range now {
		size[root(parent, int32(i))] += int64(s.x1 - s.x0)
	}
	hold(now, before, func(i int) { held[root(parent, int32(i))] = true })
	for i := range now {
		if root(parent, int32(i)) != int32(i) {
			continue
		}
		l.Regions++
		if !first && !held[i] {
			l.Islands++
			l.IslandPX = max(l.IslandPX, size[i])
		}
	}
}

// joinRows joins the stretches of rows beside each other that touch, corners included.
func joinRows(all []stretch, parent []int32) {
	above := 0
	for below := 0; below < len(all); below++ {
		y, s := all[below].y, all[below]
		for above < below && (all[above].y < y-1 || all[above].y == y-1 && all[above].x1 < s.x0) {
			above++
		}
		for i := above; i < below && all[i].y == y-1 && all[i].x0 <= s.x1; i++ {
			if a, b := root(parent, int32(i)), root(parent, int32(below)); a != b {
				parent[max(a, b)] = min(a, b)
			}
		}
	}
}

func root(parent []int32, i int32) int32 {
	for parent[i] != i {
		parent[i] = parent[parent[i]]
		i = parent[i]
	}
	return i
}

// hold says of each stretch of a layer that lies over one of the layer before.
func hold(now, before []stretch, say func(i int)) {
	j := 0
	for i, s := range now {
		for j < len(before) && (before[j].y < s.y || before[j].y == s.y && before[j].x1 <= s.x0) {
			j++
		}
		if j < len(before) && before[j].y == s.y && before[j].x0 < s.x1 {
			say(i)
		}
	}
}

// decodeError says which layer could not be read.
func decodeError(name string, err error) error {
	return fmt.Errorf("%s could not be read as a PNG picture: %w; slice again, or leave it out", name, err)
}
