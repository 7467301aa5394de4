package mesh

import (
	"math"
	"slices"
)

// sweeper measures the union of directed outlines by nonzero winding: a line
// sweeps up, the edges it meets are kept in order, and between two events every
// edge either bounds the solid or does not.
type sweeper struct {
	edges  []edge
	levels []float64
	active []*edge
}

// edge is a segment turned upwards; winding is +1 if it ran upwards, else −1.
type edge struct {
	y0, y1, x0, slope float64
	winding           int
	x, xTop           float64 // at the ends of the slab in hand
}

// The outlines are turned by this angle before the sweep, so that no edge of a
// piece that was drawn square lies along the sweep line. Area and length do
// not change.
var turnSin, turnCos = math.Sincos(0.6180339887)

// coincidentMM is how near two edges count as one: a hundredth of a micrometre,
// below what single-precision coordinates can tell apart on a plate.
const coincidentMM = 1e-5

func (w *sweeper) measure(segments []segment) Layer {
	w.load(segments)
	var out Layer
	next := 0
	for i := 0; i+1 < len(w.levels); i++ {
		low, high := w.levels[i], w.levels[i+1]
		kept := w.active[:0]
		for _, e := range w.active {
			if e.y1 > low {
				kept = append(kept, e)
			}
		}
		w.active = kept
		for next < len(w.edges) && w.edges[next].y0 <= low {
			w.active = append(w.active, &w.edges[next])
			next++
		}
		if len(w.active) > 0 {
			w.slab(low, high, &out)
		}
	}
	w.active = w.active[:0]
	return out
}

// load turns the segments into edges by rising start, and lists the levels at
// which edges begin or end.
func (w *sweeper) load(segments []segment) {
	w.edges, w.levels = w.edges[:0], w.levels[:0]
	for i := range segments {
		g := &segments[i]
		e := edge{winding: 1, x0: g.x0*turnCos - g.y0*turnSin, y0: g.x0*turnSin + g.y0*turnCos}
		x1, y1 := g.x1*turnCos-g.y1*turnSin, g.x1*turnSin+g.y1*turnCos
		if y1 < e.y0 {
			e.x0, e.y0, x1, y1, e.winding = x1, y1, e.x0, e.y0, -1
		}
		if e.y0 == y1 {
			continue
		}
		e.y1, e.slope = y1, (x1-e.x0)/(y1-e.y0)
		w.edges = append(w.edges, e)
		w.levels = append(w.levels, e.y0, y1)
	}
	slices.SortFunc(w.edges, func(a, b edge) int {
		if a.y0 < b.y0 {
			return -1
		}
		if a.y0 > b.y0 {
			return 1
		}
		return 0
	})
	slices.Sort(w.levels)
	w.levels = slices.Compact(w.levels)
}

// slab adds what lies between two levels, in parts where edges cross.
func (w *sweeper) slab(low, high float64, out *Layer) {
	for _, e := range w.active {
		e.x = e.x0 + e.slope*(low-e.y0)
		e.xTop = e.x0 + e.slope*(high-e.y0)
	}
	for low < high {
		w.order()
		top := high
		for i := 1; i < len(w.active); i++ {
			a, b := w.active[i-1], w.active[i]
			if a.xTop > b.xTop+coincidentMM && a.slope > b.slope {
				if at := low + (b.x-a.x)/(a.slope-b.slope); at > low && at < top {
					top = at
				}
			}
		}
		w.strip(low, top, out)
		if top == high {
			return
		}
		for _, e := range w.active {
			e.x = e.x0 + e.slope*(top-e.y0)
		}
		low = top
	}
}

// order sorts by place at the foot of the strip, and by lean where two begin at
// one place. The list is nearly sorted from the slab before.
func (w *sweeper) order() {
	a := w.active
	for i := 1; i < len(a); i++ {
		e := a[i]
		j := i
		for ; j > 0; j-- {
			p := a[j-1]
			if d := p.x - e.x; d < -1e-9 || (d <= 1e-9 && p.slope <= e.slope) {
				break
			}
			a[j] = p
		}
		a[j] = e
	}
}

// strip adds one part in which the order holds. Edges that coincide are taken
// together: a wall that two bodies share is no outline.
func (w *sweeper) strip(low, high float64, out *Layer) {
	dy := high - low
	winding := 0
	var enteredAt, enteredLength float64
	for i := 0; i < len(w.active); {
		e := w.active[i]
		mid := (e.x0 + e.slope*((low+high)/2-e.y0))
		before := winding
		winding += e.winding
		for i++; i < len(w.active); i++ {
			f := w.active[i]
			if f.x0+f.slope*((low+high)/2-f.y0) > mid+coincidentMM {
				break
			}
			winding += f.winding
		}
		length := dy * math.Sqrt(1+e.slope*e.slope)
		switch {
		case before == 0 && winding != 0:
			enteredAt, enteredLength = mid, length
		case before != 0 && winding == 0:
			out.AreaMM2 += (mid - enteredAt) * dy
			out.PerimeterMM += enteredLength + length
		}
	}
}
