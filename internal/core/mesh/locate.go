package mesh

import (
	"cmp"
	"math"
	"slices"
)

// Sought is a size that a mesh is searched for: along an axis (0 x, 1 y, 2 z), so many mm
// long, of a solid or, where Hollow, of the room in one.
type Sought struct {
	Axis      int
	NominalMM float64
	Hollow    bool
}

// Spot is where a mesh has a size: a line along its axis, in the mesh's own mm.
type Spot struct{ FromMM, ToMM [3]float64 }

const (
	// A mesh has a size where it is off by no more than this: what chords of a round hole lose.
	sizeSlackShare = 0.005
	sizeSlackMM    = 0.02
	// cutsSearched is how many levels are searched for outlines of a size.
	cutsSearched = 64
	// leastCuts is how many of them a body or a hole must hold its size over, so that a slope that
	// passes through the size at one level is not taken for it.
	leastCuts = 2
	// mostPlanes bounds the flat faces that are paired: the largest ones.
	mostPlanes = 400
	// mostSpots bounds the places given for one size: a comb has hundreds, and no drawing shows them.
	mostSpots = 12
	// squareOn is the least share of a face's normal that lies along the axis: within 1°.
	squareOn = 0.99985
)

// Locate finds where a mesh has the sizes sought: first as the extent of a closed outline of a
// level cut that holds over several levels (a post, a hole, the whole), then as the distance of
// two flat faces square to the axis (a slot, a step). A size that stands nowhere is nil. Of
// several places the one that holds longest is given, the first of equals by place.
func Locate(m *Mesh, sought []Sought) ([][]Spot, error) {
	out := make([][]Spot, len(sought))
	loops := map[int][]extent{} // by the axis across which is cut
	for i, s := range sought {
		for _, across := range cutsFor(s.Axis) {
			if _, known := loops[across]; !known {
				found, err := extents(m.Triangles, across)
				if err != nil {
					return nil, err
				}
				loops[across] = found
			}
			if out[i] = s.among(loops[across]); len(out[i]) > 0 {
				break
			}
		}
		if len(out[i]) == 0 {
			out[i] = s.betweenFaces(m.Triangles)
		}
	}
	return out, nil
}

// cutsFor are the axes across which cuts show an axis, the one that shows it best first: level
// cuts as the machine draws them, else upright ones.
func cutsFor(axis int) []int {
	if axis == 2 {
		return []int{0, 1}
	}
	return []int{2, 1 - axis}
}

// extent is the box of one outline of a cut; a hole runs clockwise.
type extent struct {
	cut       int
	low, high [3]float64
	hollow    bool
}

// extents cuts a mesh across an axis. The axes are turned in order, which keeps the
// solid on the left of its outlines.
func extents(triangles []Triangle, across int) ([]extent, error) {
	turned := make([]Triangle, len(triangles))
	for i, t := range triangles {
		for corner := range t {
			for axis := range 3 {
				turned[i][corner][axis] = t[corner][(across+1+axis)%3]
			}
		}
	}
	s, err := NewSlicer(turned, math.Max(Size(turned)[2], sizeSlackMM)*1000/cutsSearched)
	if err != nil {
		return nil, err
	}
	var out []extent
	err = s.chunk(&cutter{}, 0, s.count, func(layer int, segments []segment) error {
		for _, loop := range link(segments) {
			e := extent{cut: layer, hollow: loop.area() < 0}
			for axis := range 2 {
				low, high := loop[0][axis], loop[0][axis]
				for _, p := range loop {
					low, high = min(low, p[axis]), max(high, p[axis])
				}
				e.low[(across+1+axis)%3], e.high[(across+1+axis)%3] = low, high
			}
			e.low[across], e.high[across] = s.HeightMM(layer), s.HeightMM(layer)
			out = append(out, e)
		}
		return nil
	})
	return out, err
}

// area is what a loop encloses in mm², below 0 where it runs clockwise.
func (l Loop) area() (mm2 float64) {
	for i, a := range l {
		b := l[(i+1)%len(l)]
		mm2 += (a[0]*b[1] - a[1]*b[0]) / 2
	}
	return mm2
}

func (s Sought) slackMM() float64 { return math.Max(sizeSlackMM, sizeSlackShare*s.NominalMM) }

// body is a place where outlines of a size stand over each other.
type body struct {
	cuts      int
	last      extent
	low, high [3]float64 // sums
}

func (b body) middle() (at [3]float64) {
	for axis := range at {
		at[axis] = (b.low[axis] + b.high[axis]) / 2 / float64(b.cuts)
	}
	return at
}

// among gathers the outlines that have the size into bodies and gives those that hold it longest.
func (s Sought) among(extents []extent) []Spot {
	var bodies []body
	for _, e := range extents {
		off := math.Abs(e.high[s.Axis] - e.low[s.Axis] - s.NominalMM)
		if e.hollow != s.Hollow || off > s.slackMM() {
			continue
		}
		b := s.bodyOf(bodies, e)
		if b < 0 {
			b = len(bodies)
			bodies = append(bodies, body{})
		}
		bodies[b].cuts++
		bodies[b].last = e
		for axis := range 3 {
			bodies[b].low[axis] += e.low[axis]
			bodies[b].high[axis] += e.high[axis]
		}
	}
	bodies = slices.DeleteFunc(bodies, func(b body) bool { return b.cuts < leastCuts })
	slices.SortStableFunc(bodies, func(a, b body) int { return cmp.Compare(b.cuts, a.cuts) })
	out := []Spot{}
	for _, b := range bodies[:min(len(bodies), mostSpots)] {
		if 2*b.cuts < bodies[0].cuts {
			break // a stump of the same body that a hole parts is no place of its own
		}
		spot := Spot{b.middle(), b.middle()}
		spot.FromMM[s.Axis], spot.ToMM[s.Axis] = b.low[s.Axis]/float64(b.cuts), b.high[s.Axis]/float64(b.cuts)
		out = append(out, spot)
	}
	return out
}

// bodyOf is the body that an outline continues: one cut on, with the same ends along the axis and
// over the last one across it. −1 where there is none.
func (s Sought) bodyOf(bodies []body, e extent) int {
	for i, b := range bodies {
		n, same := float64(b.cuts), e.cut == b.last.cut+1
		for axis := range 3 {
			switch {
			case e.low[axis] == e.high[axis]: // the level of the cut
			case axis == s.Axis:
				same = same && math.Abs((e.low[axis]+e.high[axis])/2-(b.low[axis]+b.high[axis])/2/n) <= 2*s.slackMM()
			default:
				same = same && e.low[axis] < b.last.high[axis] && e.high[axis] > b.last.low[axis]
			}
		}
		if same {
			return i
		}
	}
	return -1
}

// plane is what lies at one place of an axis and faces one way along it.
type plane struct {
	atMM, mm2 float64
	up        bool
	low, high [3]float64
	middle    [3]float64 // of its largest triangle: always a point of the face itself
	largest   float64
}

// meets says whether two planes lie over each other, or edge on edge as the treads of a stair do.
func (p plane) meets(other plane, along int) bool {
	for axis := range 3 {
		if axis != along && (p.low[axis] > other.high[axis]+sizeSlackMM || other.low[axis] > p.high[axis]+sizeSlackMM) {
			return false
		}
	}
	return true
}

// betweenFaces looks for two flat faces the size apart that face as a solid's or a room's ends do,
// or, if there are none, any two: a step. The larger pair is given, on its smaller face.
func (s Sought) betweenFaces(triangles []Triangle) []Spot {
	planes := planesOf(triangles, s.Axis)
	out := []Spot{}
	var most float64
	for pass := 0; pass < 2 && len(out) == 0; pass++ {
		for _, low := range planes {
			for _, high := range planes {
				facing := low.up == s.Hollow && high.up != s.Hollow
				if math.Abs(high.atMM-low.atMM-s.NominalMM) > sizeSlackMM || (pass == 0 && !facing) || (pass == 1 && low.up != high.up) || !low.meets(high, s.Axis) {
					continue
				}
				smaller := low
				if high.mm2 < low.mm2 {
					smaller = high
				}
				if smaller.mm2 <= most {
					continue
				}
				most = smaller.mm2
				spot := Spot{smaller.middle, smaller.middle}
				spot.FromMM[s.Axis], spot.ToMM[s.Axis] = low.atMM, high.atMM
				out = []Spot{spot}
			}
		}
	}
	return out
}

// planesOf are the flat faces square to an axis, the largest first.
func planesOf(triangles []Triangle, axis int) []plane {
	type key struct {
		at int64 // µm
		up bool
	}
	found := map[key]*plane{}
	for i := range triangles {
		n := normal(triangles[i])
		length := math.Sqrt(inner(n, n))
		if length == 0 || math.Abs(n[axis]) < squareOn*length {
			continue
		}
		k := key{int64(math.Round(float64(triangles[i][0][axis]) * 1000)), n[axis] > 0}
		if found[k] == nil {
			found[k] = &plane{atMM: float64(k.at) / 1000, up: k.up,
				low: [3]float64{math.Inf(1), math.Inf(1), math.Inf(1)}, high: [3]float64{math.Inf(-1), math.Inf(-1), math.Inf(-1)}}
		}
		p := found[k]
		p.mm2 += length / 2
		larger := length > p.largest
		if larger {
			p.largest = length
		}
		for a := range 3 {
			for corner := range 3 {
				v := float64(triangles[i][corner][a])
				p.low[a], p.high[a] = min(p.low[a], v), max(p.high[a], v)
			}
			if larger {
				p.middle[a] = (float64(triangles[i][0][a]) + float64(triangles[i][1][a]) + float64(triangles[i][2][a])) / 3
			}
		}
	}
	out := make([]plane, 0, len(found))
	for _, p := range found {
		out = append(out, *p)
	}
	slices.SortFunc(out, func(a, b plane) int {
		switch {
		case a.mm2 != b.mm2:
			return cmp.Compare(b.mm2, a.mm2)
		case a.atMM != b.atMM:
			return cmp.Compare(a.atMM, b.atMM)
		case a.up:
			return 1
		}
		return -1
	})
	return out[:min(len(out), mostPlanes)]
}
