package mesh

import (
	"errors"
	"math"
	"sync"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// Layer is one slice: its solid area in mm² and the length of its outline in
// mm, with overlapping bodies counted once.
type Layer struct {
	AreaMM2     float64 `json:"area_mm2"`
	PerimeterMM float64 `json:"perimeter_mm"`
}

// Progress is told the share done, 0 to 1, and returns false to stop the work.
// It is called from one goroutine at a time; nil is never asked.
type Progress func(share float64) bool

// ErrStopped is returned when a Progress asked to stop.
var ErrStopped = errors.New("stopped before it was done")

// mostLayers bounds what one file can be sliced into: a kilometre of plate in
// the thinnest layers would fill the memory.
const mostLayers = 200_000

// ceilSlack keeps a height of whole layers from gaining one by rounding.
const ceilSlack = 1e-6

// LayerCount is how many layers of layerUM µm a height in mm takes, at least 1.
func LayerCount(heightMM, layerUM float64) float64 {
	return math.Max(1, math.Ceil(heightMM*1000/layerUM-ceilSlack))
}

// Slicer cuts a mesh at the mid-height of each layer.
type Slicer struct {
	triangles   []Triangle
	first, last []int32  // layers that cut each triangle; last < first: none
	byFirst     []uint32 // triangles in the order of first
	starts      []int32  // where each layer begins in byFirst
	count       int
	bottomMM    float64
	layerMM     float64
}

// NewSlicer sorts the triangles by the layers that cut them. layerUM is > 0 µm
// and may give at most 200,000 layers, else an error of layer_um.
func NewSlicer(triangles []Triangle, layerUM float64) (*Slicer, error) {
	var c quantity.Checks
	c.Above("layer_um", layerUM)
	if c.Err() != nil {
		return nil, c.Err()
	}
	bottom, top := math.Inf(1), math.Inf(-1)
	for i := range triangles {
		for corner := range 3 {
			z := float64(triangles[i][corner][2])
			bottom, top = min(bottom, z), max(top, z)
		}
	}
	layers := LayerCount(top-bottom, layerUM)
	if layers > mostLayers {
		return nil, quantity.Errorf("layer_um", "is %s µm, which cuts a height of %s mm into %.0f layers; at most %d are sliced", say.Figures(layerUM, 6), say.Figures(top-bottom, 4), layers, mostLayers)
	}
	s := &Slicer{triangles: triangles, first: make([]int32, len(triangles)), last: make([]int32, len(triangles)),
		byFirst: make([]uint32, len(triangles)), count: int(layers), bottomMM: bottom, layerMM: layerUM / 1000}
	s.sort()
	return s, nil
}

// Count is the number of layers.
func (s *Slicer) Count() int { return s.count }

// HeightMM is the height of layer i's cut.
func (s *Slicer) HeightMM(i int) float64 { return s.bottomMM + (float64(i)+0.5)*s.layerMM }

// sort finds the layers of each triangle and orders triangles by the first.
// A corner on a cut counts as above it, so that closed meshes give closed
// outlines.
func (s *Slicer) sort() {
	counts := make([]int32, s.count+2)
	for i := range s.triangles {
		t := &s.triangles[i]
		low := float64(min(t[0][2], t[1][2], t[2][2]))
		high := float64(max(t[0][2], t[1][2], t[2][2]))
		s.first[i] = int32(s.firstAbove(low))
		s.last[i] = int32(s.firstAbove(high) - 1)
		if s.last[i] < s.first[i] {
			s.first[i] = int32(s.count)
		}
		counts[s.first[i]+1]++
	}
	for i := 1; i < len(counts); i++ {
		counts[i] += counts[i-1]
	}
	s.starts = counts
	next := append([]int32(nil), counts...)
	for i := range s.triangles {
		s.byFirst[next[s.first[i]]] = uint32(i)
		next[s.first[i]]++
	}
}

// firstAbove is the first layer whose cut is above z, so that a corner on
// the cut lies above it.
func (s *Slicer) firstAbove(z float64) int {
	i := int(math.Ceil((z-s.bottomMM)/s.layerMM - 0.5))
	i = max(0, min(i, s.count))
	for i > 0 && s.HeightMM(i-1) > z {
		i--
	}
	for i < s.count && s.HeightMM(i) <= z {
		i++
	}
	return i
}

// chunkLayers is how many layers a worker takes at a time, and workers how
// many there are: enough for the cores of a laptop.
const (
	chunkLayers = 32
	workers     = 4
)

// Layers slices everything. Progress may be nil; when it returns false the
// error is ErrStopped. A file that is too much work is ErrTangled.
func (s *Slicer) Layers(progress Progress) ([]Layer, error) {
	out := make([]Layer, s.count)
	turns := &turns{count: s.count, progress: progress}
	effort := newEffort(turns.goOn)
	err := s.share(turns, func() each {
		sweep := sweeper{effort: effort}
		return func(i int, segments []segment) error {
			out[i] = sweep.measure(segments)
			return sweep.err
		}
	})
	return out, err
}

// each is told a layer's segments, which it must not keep; an error ends the
// slicing.
type each func(layer int, segments []segment) error

// turns deals layers to workers, tells how far they are, and ends them together.
type turns struct {
	mu          sync.Mutex
	count       int
	taken, done int
	progress    Progress
	err         error
}

// next gives the layers that a worker takes after finished ones; none when all
// are taken or the work has ended.
func (t *turns) next(finished int, err error) (from, to int) {
	t.mu.Lock()
	defer t.mu.Unlock()
	t.done += finished
	if t.err == nil {
		t.err = err
	}
	if finished > 0 {
		t.ask()
	}
	if t.err != nil || t.taken >= t.count {
		return 0, 0
	}
	from = t.taken
	t.taken = min(t.count, t.taken+chunkLayers)
	return from, t.taken
}

func (t *turns) ask() {
	if t.err == nil && t.progress != nil && !t.progress(float64(t.done)/float64(t.count)) {
		t.err = ErrStopped
	}
}

// goOn asks in the middle of a layer.
func (t *turns) goOn() bool {
	t.mu.Lock()
	defer t.mu.Unlock()
	t.ask()
	return t.err == nil
}

// share cuts every layer and hands its segments to what worker returns; each
// worker sees runs of neighbouring layers in order.
func (s *Slicer) share(turns *turns, worker func() each) error {
	var wg sync.WaitGroup
	for range workers {
		wg.Go(func() {
			var (
				each   = worker()
				cutter cutter
				done   int
				err    error
			)
			for {
				from, to := turns.next(done, err)
				if from == to {
					return
				}
				err = s.chunk(&cutter, from, to, each)
				done = to - from
			}
		})
	}
	wg.Wait()
	return turns.err
}

// cutter keeps a worker's buffers.
type cutter struct {
	active   []uint32
	segments []segment
}

// chunk cuts layers from..to−1. The triangles that began below are found by
// one pass over those that begin earlier.
func (s *Slicer) chunk(c *cutter, from, to int, each each) (err error) {
	defer caught(&err)
	c.active = c.active[:0]
	for _, t := range s.byFirst[:s.starts[from]] {
		if int(s.last[t]) >= from {
			c.active = append(c.active, t)
		}
	}
	for layer := from; layer < to; layer++ {
		c.active = append(c.active, s.byFirst[s.starts[layer]:s.starts[layer+1]]...)
		kept := c.active[:0]
		c.segments = c.segments[:0]
		z := s.HeightMM(layer)
		for _, t := range c.active {
			if g := cut(&s.triangles[t], z); g.x0 != g.x1 || g.y0 != g.y1 {
				c.segments = append(c.segments, g)
			}
			if int(s.last[t]) > layer {
				kept = append(kept, t)
			}
		}
		c.active = kept
		if err := each(layer, c.segments); err != nil {
			return err
		}
	}
	return nil
}

// segment runs with the solid on its left.
type segment struct{ x0, y0, x1, y1 float64 }

// cut is the line in which a triangle meets the level z; the triangle has
// corners on both sides.
func cut(t *Triangle, z float64) segment {
	var out segment
	for i := range 3 {
		a, b := &t[i], &t[(i+1)%3]
		switch belowA, belowB := float64(a[2]) < z, float64(b[2]) < z; {
		case belowA && !belowB: // where it rises, the segment ends
			out.x1, out.y1 = meet(a, b, z)
		case !belowA && belowB:
			out.x0, out.y0 = meet(b, a, z)
		}
	}
	return out
}

// meet is where the edge from low to high passes z. Both triangles of an edge
// compute it from the same end, so their points are identical.
func meet(low, high *[3]float32, z float64) (x, y float64) {
	k := (z - float64(low[2])) / (float64(high[2]) - float64(low[2]))
	return float64(low[0]) + k*(float64(high[0])-float64(low[0])), float64(low[1]) + k*(float64(high[1])-float64(low[1]))
}
