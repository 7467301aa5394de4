package mesh

import (
	"cmp"
	"math"
	"slices"
)

// span is a stretch of solid along a row of a slice, in mm.
type span struct {
	row      int32
	part     int32 // the connected part of the slice it belongs to
	from, to float64
}

// rows turns outlines into spans by nonzero winding along rows gridMM apart;
// row j lies at bottomMM + (j+½)·gridMM.
type rows struct {
	bottomMM, gridMM float64
	crossings        []crossing
}

type crossing struct {
	row     int32
	winding int32
	x       float64
}

func (r *rows) spans(segments []segment, out []span) []span {
	r.crossings = r.crossings[:0]
	for i := range segments {
		g := segments[i]
		winding := int32(1)
		if g.y1 < g.y0 {
			g.x0, g.y0, g.x1, g.y1, winding = g.x1, g.y1, g.x0, g.y0, -1
		}
		first, last := math.Ceil((g.y0-r.bottomMM)/r.gridMM-0.5), math.Ceil((g.y1-r.bottomMM)/r.gridMM-0.5)
		for j := first; j < last; j++ {
			y := r.bottomMM + (j+0.5)*r.gridMM
			r.crossings = append(r.crossings, crossing{int32(j), winding, g.x0 + (g.x1-g.x0)*(y-g.y0)/(g.y1-g.y0)})
		}
	}
	slices.SortFunc(r.crossings, func(a, b crossing) int {
		if a.row != b.row {
			return cmp.Compare(a.row, b.row)
		}
		return cmp.Compare(a.x, b.x)
	})
	out = out[:0]
	winding, from := int32(0), 0.0
	for i, c := range r.crossings {
		if i > 0 && r.crossings[i-1].row != c.row {
			winding = 0 // an open outline ends with its row
		}
		before := winding
		winding += c.winding
		switch {
		case before == 0:
			from = c.x
		case winding == 0 && c.x > from:
			out = append(out, span{row: c.row, part: -1, from: from, to: c.x})
		}
	}
	return out
}

// overlaps calls touch for every pair of spans, one of each list, that share a
// stretch in rows a and a+shift. Both lists are in order of rows and places.
func overlaps(a, b []span, shift int32, touch func(i, j int, length float64)) {
	j := 0
	for i := range a {
		row := a[i].row + shift
		for j < len(b) && (b[j].row < row || (b[j].row == row && b[j].to <= a[i].from)) {
			j++
		}
		for k := j; k < len(b) && b[k].row == row && b[k].from < a[i].to; k++ {
			touch(i, k, min(a[i].to, b[k].to)-max(a[i].from, b[k].from))
		}
	}
}

// part is a connected region of one slice.
type part struct {
	areaMM2  float64
	widthMM  float64 // short axis of the ellipse with the same second moments
	xMM, yMM float64
	below    int32 // the part under it that it shares most with; −1: none
	// the stretch, ending here, over which its width held
	steadyLayers     int
	leastMM, mostMM  float64
	sx, sy, xx, yy   float64
	xy, sharedLength float64
}

// parts numbers the connected regions of a slice and measures each.
func (r *rows) parts(spans []span) []part {
	parent := make([]uint32, len(spans))
	for i := range parent {
		parent[i] = uint32(i)
	}
	overlaps(spans, spans, 1, func(i, j int, _ float64) { join(parent, uint32(i), uint32(j)) })
	var out []part
	number := map[uint32]int32{}
	for i := range spans {
		top := root(parent, uint32(i))
		id, known := number[top]
		if !known {
			id = int32(len(out))
			number[top] = id
			out = append(out, part{below: -1})
		}
		spans[i].part = id
		out[id].add(spans[i], r)
	}
	for i := range out {
		out[i].finish(r.gridMM)
	}
	return out
}

func (p *part) add(s span, r *rows) {
	y, length, mid := r.bottomMM+(float64(s.row)+0.5)*r.gridMM, s.to-s.from, (s.from+s.to)/2
	p.areaMM2 += length * r.gridMM
	p.sx += length * mid
	p.sy += length * y
	p.xx += length*mid*mid + length*length*length/12
	p.yy += length * (y*y + r.gridMM*r.gridMM/12)
	p.xy += length * mid * y
}

func (p *part) finish(gridMM float64) {
	n := p.areaMM2 / gridMM
	p.xMM, p.yMM = p.sx/n, p.sy/n
	a, b, c := p.xx/n-p.xMM*p.xMM, p.xy/n-p.xMM*p.yMM, p.yy/n-p.yMM*p.yMM
	least := (a+c)/2 - math.Hypot((a-c)/2, b)
	p.widthMM = 4 * math.Sqrt(math.Max(0, least))
}
