package mesh

import (
	"math"

	"ojime/internal/core/quantity"
)

// Loop is one closed outline of a slice in mm, solid on its left.
type Loop [][2]float64

// Outline is one layer of a mesh: its loops, where it is cut above the underside
// in mm, how many layers there are, and what the layer holds.
type Outline struct {
	Loops  []Loop
	AtMM   float64
	Layers int64
	Facts  Layer
}

// OutlineOf cuts a mesh at the height of one layer (counted from 0) and links the
// cuts into loops. Overlapping bodies each keep their loop: together, by
// nonzero winding, they enclose the solid. What does not close is left out.
func OutlineOf(m *Mesh, layerUM float64, layer int64) (Outline, error) {
	s, err := NewSlicer(m.Triangles, layerUM)
	if err != nil {
		return Outline{}, err
	}
	if layer < 0 || layer >= int64(s.count) {
		return Outline{}, quantity.Errorf("layer", "is %d; this piece has layers 0 to %d", layer, s.count-1)
	}
	out := Outline{Loops: []Loop{}, AtMM: s.HeightMM(int(layer)) - s.bottomMM, Layers: int64(s.count)}
	err = s.chunk(&cutter{}, int(layer), int(layer)+1, func(_ int, segments []segment) error {
		sweep := sweeper{effort: newEffort(nil)}
		out.Loops, out.Facts = append(out.Loops, link(segments)...), sweep.measure(segments)
		return sweep.err
	})
	return out, err
}

// link follows segments from end to start. Ends that meet are the same to the
// last bit, since both triangles of an edge compute them alike.
func link(segments []segment) []Loop {
	starts := map[[2]float64][]int{}
	for i, g := range segments {
		starts[[2]float64{g.x0, g.y0}] = append(starts[[2]float64{g.x0, g.y0}], i)
	}
	used := make([]bool, len(segments))
	var out []Loop
	for first := range segments {
		if used[first] {
			continue
		}
		var loop Loop
		begin := [2]float64{segments[first].x0, segments[first].y0}
		for at, i := begin, first; ; {
			used[i] = true
			loop = append(loop, at)
			at = [2]float64{segments[i].x1, segments[i].y1}
			if at == begin {
				out = append(out, straight(loop))
				break
			}
			next, waiting := -1, starts[at]
			for len(waiting) > 0 && next < 0 { // those used are dropped, so that none is looked at twice
				if !used[waiting[0]] {
					next = waiting[0]
				}
				waiting = waiting[1:]
			}
			starts[at] = waiting
			if next < 0 {
				break // an open end
			}
			i = next
		}
	}
	return out
}

// straight leaves out corners on a straight line: a face is cut once for each
// of its triangles.
func straight(loop Loop) Loop {
	out := make(Loop, 0, len(loop))
	for i, p := range loop {
		before, after := loop[(i+len(loop)-1)%len(loop)], loop[(i+1)%len(loop)]
		if len(out) > 0 {
			before = out[len(out)-1]
		}
		cross := (p[0]-before[0])*(after[1]-p[1]) - (p[1]-before[1])*(after[0]-p[0])
		if math.Abs(cross) > 1e-9 {
			out = append(out, p)
		}
	}
	return out
}
