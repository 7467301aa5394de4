package mesh

import (
	"cmp"
	"math"
	"slices"
)

// sweeper measures the union of directed outlines by nonzero winding: a line
// sweeps up, the edges it meets are kept in order, and between two events every
// edge either bounds the solid or does not.
type sweeper struct {
	edges         []edge
	events, spare []event
	counts        []int32
	active        []*edge

	effort         *effort // shared with other sweeps of the file; nil is unbounded
	steps, ofLayer int64   // not yet taken off, and of the layer in hand
	err            error   // why the sweep ended early; what it measured is void then
}

// step counts n edges looked at and says whether to go on.
func (w *sweeper) step(n int) bool {
	if w.err != nil {
		return false
	}
	w.steps += int64(n)
	if w.steps < stepsBetween || w.effort == nil {
		return true
	}
	w.ofLayer += w.steps
	w.err = w.effort.spend(w.steps, w.ofLayer)
	w.steps = 0
	return w.err == nil
}

// event is a level at which an edge begins (its index) or ends (−1).
type event struct {
	y      float64
	begins int32
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

// measure gives the area and outline of a layer. Once err is set, what it gives
// means nothing.
func (w *sweeper) measure(segments []segment) Layer {
	if w.err != nil {
		return Layer{}
	}
	w.load(segments)
	w.ofLayer = 0
	var out Layer
	for i := 0; i < len(w.events) && w.step(len(w.active)); {
		low := w.events[i].y
		kept := w.active[:0]
		for _, e := range w.active {
			if e.y1 > low {
				kept = append(kept, e)
			}
		}
		w.active = kept
		for ; i < len(w.events) && w.events[i].y == low; i++ {
			if begins := w.events[i].begins; begins >= 0 {
				w.active = append(w.active, &w.edges[begins])
			}
		}
		if len(w.active) > 0 && i < len(w.events) {
			w.slab(low, w.events[i].y, &out)
		}
	}
	w.active = w.active[:0]
	return out
}

// load turns the segments into edges and sorts the levels at which they begin
// and end.
func (w *sweeper) load(segments []segment) {
	w.edges, w.events = w.edges[:0], w.events[:0]
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
		w.events = append(w.events, event{e.y0, int32(len(w.edges))}, event{y1, -1})
		w.edges = append(w.edges, e)
	}
	w.events, w.spare = sortEvents(w.events, w.spare, &w.counts)
}

// sortEvents deals the events into as many bins as there are events, evenly
// over their range, and sorts each bin: on outlines, which spread over the
// plate, that takes a third of the time of sorting the whole. It returns the
// sorted events and the other buffer.
func sortEvents(events, spare []event, counts *[]int32) (sorted, other []event) {
	n := len(events)
	if n < 2 {
		return events, spare
	}
	low, high := events[0].y, events[0].y
	for _, e := range events {
		low, high = min(low, e.y), max(high, e.y)
	}
	if cap(spare) < n {
		spare = make([]event, n)
	}
	if cap(*counts) < n+1 {
		*counts = make([]int32, n+1)
	}
	sorted, ends := spare[:n], (*counts)[:n+1]
	clear(ends)
	perBin := float64(n-1) / (high - low)
	if math.IsInf(perBin, 1) {
		perBin = 0
	}
	for _, e := range events {
		ends[int((e.y-low)*perBin)+1]++
	}
	for i := 1; i <= n; i++ {
		ends[i] += ends[i-1]
	}
	for _, e := range events {
		bin := int((e.y - low) * perBin)
		sorted[ends[bin]] = e
		ends[bin]++
	}
	from := int32(0)
	for _, end := range ends[:n] {
		if end-from > 1 {
			slices.SortFunc(sorted[from:end], func(a, b event) int { return cmp.Compare(a.y, b.y) })
		}
		from = end
	}
	return sorted, events
}

// slab adds what lies between two levels, in parts where edges cross.
func (w *sweeper) slab(low, high float64, out *Layer) {
	for _, e := range w.active {
		e.x = e.x0 + e.slope*(low-e.y0)
		e.xTop = e.x0 + e.slope*(high-e.y0)
	}
	for low < high && w.step(w.order()+len(w.active)) {
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
// one place. The list is nearly sorted from the slab before. It gives the
// number of moves.
func (w *sweeper) order() (moves int) {
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
		moves += i - j
		if moves > stepsBetween { // a layer with more edges than this in one line is told early
			if !w.step(moves) {
				return 0
			}
			moves = 0
		}
	}
	return moves
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
