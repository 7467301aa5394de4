package mesh

import (
	"math"
	"sort"
)

// Island is a part of a layer with nothing under it: it starts in mid-air and
// holds to nothing but the film unless a support carries it.
type Island struct {
	AtMM    float64 `json:"at_mm"`
	AreaMM2 float64 `json:"area_mm2"`
	XMM     float64 `json:"x_mm"`
	YMM     float64 `json:"y_mm"`
}

// Difficulty is how hard a piece is to print as it stands, read off its slices
// at LayerUM and rows GridUM apart, lengths in mm and areas in mm².
//
// ThinnestMM is the thinnest part standing by itself that holds its width,
// within a fifth, over at least that height; nil where there is none of at
// least two rows. Fine detail on a larger body is not in it. ReliefRatio is the length of the
// outlines over that of discs of the same area, weighted by area: 1 is a plain
// round column. OverhangMM2 is the area, seen from below, of faces flatter
// than 45° above the first layer. JumpMM2 is the largest growth of area from
// one layer to the next. Islands holds the largest of IslandCount.
type Difficulty struct {
	LayerUM     float64  `json:"layer_um"`
	GridUM      float64  `json:"grid_um"`
	ThinnestMM  *float64 `json:"thinnest_mm"`
	ThinnestAt  *float64 `json:"thinnest_at_mm"`
	ReliefRatio float64  `json:"relief_ratio"`
	OverhangMM2 float64  `json:"overhang_mm2"`
	ContactMM2  float64  `json:"contact_mm2"`
	LargestMM2  float64  `json:"largest_mm2"`
	LargestAt   float64  `json:"largest_at_mm"`
	JumpMM2     float64  `json:"jump_mm2"`
	JumpAt      float64  `json:"jump_at_mm"`
	IslandCount int64    `json:"island_count"`
	Islands     []Island `json:"islands"`
}

// The slices are no finer than this share of the piece, and no finer than
// finestMM; most islands that are listed by place.
const (
	heightParts = 800
	widthParts  = 500
	finestMM    = 0.05
	mostIslands = 12
	steadyRatio = 1.2
)

// Judge slices a piece and says how hard it is. Progress may be nil.
func Judge(m *Mesh, progress Progress) (Difficulty, error) {
	size, bottom := bounds(m.Triangles)
	layer := math.Max(finestMM, size[2]/heightParts)
	grid := math.Max(finestMM, math.Max(size[0], size[1])/widthParts)
	s, err := NewSlicer(m.Triangles, layer*1000)
	if err != nil {
		return Difficulty{}, err
	}
	d := judge{rows: rows{bottomMM: bottom[1], gridMM: grid}, slicer: s,
		out: Difficulty{LayerUM: layer * 1000, GridUM: grid * 1000, OverhangMM2: overhang(m.Triangles, bottom[2]+layer), Islands: []Island{}}}
	share := 0.0
	d.sweep.effort = newEffort(func() bool { return progress == nil || progress(share) })
	err = s.chunk(&cutter{}, 0, s.count, func(i int, segments []segment) error {
		if share = float64(i) / float64(s.count); progress != nil && i%64 == 0 && !progress(share) {
			return ErrStopped
		}
		d.layer(i, segments)
		return d.sweep.err
	})
	if err != nil {
		return Difficulty{}, err
	}
	return d.finish(), nil
}

func bounds(triangles []Triangle) (size, bottom [3]float64) {
	top := [3]float64{math.Inf(-1), math.Inf(-1), math.Inf(-1)}
	bottom = [3]float64{math.Inf(1), math.Inf(1), math.Inf(1)}
	for i := range triangles {
		for corner := range 3 {
			for axis := range 3 {
				v := float64(triangles[i][corner][axis])
				bottom[axis], top[axis] = min(bottom[axis], v), max(top[axis], v)
			}
		}
	}
	for axis := range size {
		size[axis] = top[axis] - bottom[axis]
	}
	return size, bottom
}

// overhang sums what faces flatter than 45° cover, seen from below.
func overhang(triangles []Triangle, aboveMM float64) (mm2 float64) {
	for i := range triangles {
		t := &triangles[i]
		n := normal(*t)
		if low := float64(min(t[0][2], t[1][2], t[2][2])); low >= aboveMM && -n[2] > math.Hypot(n[0], n[1]) {
			mm2 -= n[2] / 2
		}
	}
	return mm2
}

// judge walks up the layers with the one below in hand.
type judge struct {
	rows           rows
	slicer         *Slicer
	sweep          sweeper
	spans, below   []span
	partsBelow     []part
	areaBelow      float64
	outline, discs float64
	out            Difficulty
}

func (d *judge) layer(i int, segments []segment) {
	l, height := d.sweep.measure(segments), (float64(i)+1)*d.slicer.layerMM
	if i == 0 {
		d.out.ContactMM2 = l.AreaMM2
	} else if jump := l.AreaMM2 - d.areaBelow; jump > d.out.JumpMM2 {
		d.out.JumpMM2, d.out.JumpAt = jump, height
	}
	if l.AreaMM2 > d.out.LargestMM2 {
		d.out.LargestMM2, d.out.LargestAt = l.AreaMM2, height
	}
	if l.AreaMM2 > 0 {
		d.outline += l.PerimeterMM * l.AreaMM2 / (2 * math.Sqrt(math.Pi*l.AreaMM2))
		d.discs += l.AreaMM2
	}
	d.areaBelow = l.AreaMM2
	d.spans = d.rows.spans(segments, d.spans)
	parts := d.rows.parts(d.spans)
	d.connect(parts)
	for p := range parts {
		d.follow(&parts[p], i, height)
	}
	d.spans, d.below, d.partsBelow = d.below, d.spans, parts
}

// connect finds, for each part, what lies under it.
func (d *judge) connect(parts []part) {
	shared := map[[2]int32]float64{}
	overlaps(d.spans, d.below, 0, func(i, j int, length float64) {
		key := [2]int32{d.spans[i].part, d.below[j].part}
		shared[key] += length
		if p := &parts[key[0]]; shared[key] > p.sharedLength || (shared[key] == p.sharedLength && key[1] < p.below) {
			p.sharedLength, p.below = shared[key], key[1]
		}
	})
}

func (d *judge) follow(p *part, layer int, height float64) {
	p.steadyLayers, p.leastMM, p.mostMM = 1, p.widthMM, p.widthMM
	if p.below < 0 {
		if layer > 0 && p.areaMM2 > d.rows.gridMM*d.rows.gridMM {
			d.out.Islands = append(d.out.Islands, Island{AtMM: height, AreaMM2: p.areaMM2, XMM: p.xMM, YMM: p.yMM})
		}
		return
	}
	under := d.partsBelow[p.below]
	least, most := min(p.widthMM, under.leastMM), max(p.widthMM, under.mostMM)
	if most > steadyRatio*least {
		return
	}
	p.steadyLayers, p.leastMM, p.mostMM = under.steadyLayers+1, least, most
	held := float64(p.steadyLayers) * d.slicer.layerMM
	if held >= least && least >= 2*d.rows.gridMM && (d.out.ThinnestMM == nil || least < *d.out.ThinnestMM) {
		width, at := least, height
		d.out.ThinnestMM, d.out.ThinnestAt = &width, &at
	}
}

func (d *judge) finish() Difficulty {
	out := d.out
	out.ReliefRatio = 1
	if d.discs > 0 {
		out.ReliefRatio = d.outline / d.discs
	}
	out.IslandCount = int64(len(out.Islands))
	sort.SliceStable(out.Islands, func(i, j int) bool { return out.Islands[i].AreaMM2 > out.Islands[j].AreaMM2 })
	out.Islands = out.Islands[:min(len(out.Islands), mostIslands)]
	return out
}
