package mesh

import (
	"math"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// HollowResult is what a piece holds as a shell of WallMM, in ml. It is an
// estimate on cubes of GridMM: the cavity is what lies deeper than the wall;
// drain holes are not in it.
type HollowResult struct {
	WallMM   float64 `json:"wall_mm"`
	GridMM   float64 `json:"grid_mm"`
	SolidML  float64 `json:"solid_ml"`
	ShellML  float64 `json:"shell_ml"`
	CavityML float64 `json:"cavity_ml"`
	quantity.Warnings
}

// mostCubes bounds the grid: 12 MB of distances a pass.
const mostCubes = 3_000_000

// Hollow estimates the shell of wallMM > 0 from an exact distance field
// (Felzenszwalb & Huttenlocher 2012) over the voxels of the slices. It warns
// coarse_grid where the wall is under three cubes.
func Hollow(m *Mesh, wallMM float64, progress Progress) (HollowResult, error) {
	var c quantity.Checks
	c.Above("wall_mm", wallMM)
	if c.Err() != nil {
		return HollowResult{}, c.Err()
	}
	size, bottom := bounds(m.Triangles)
	grid := math.Max(finestMM, math.Cbrt(size[0]*size[1]*size[2]/mostCubes))
	grid = math.Max(grid, math.Max(size[0], math.Max(size[1], size[2]))/2000)
	v := newVoxels(size, grid)
	s, err := NewSlicer(m.Triangles, grid*1000)
	if err != nil {
		return HollowResult{}, err
	}
	out := HollowResult{WallMM: wallMM, GridMM: grid, Warnings: quantity.None()}
	sweep := sweeper{effort: newEffort(func() bool { return progress == nil || progress(0) })}
	r := rows{bottomMM: bottom[1], gridMM: grid}
	var spans []span
	err = s.chunk(&cutter{}, 0, s.count, func(i int, segments []segment) error {
		out.SolidML += sweep.measure(segments).AreaMM2 * grid / 1000
		spans = r.spans(segments, spans)
		v.fill(i, spans, bottom[0])
		return sweep.err
	})
	if err != nil {
		return HollowResult{}, err
	}
	if !v.distances(progress) {
		return HollowResult{}, ErrStopped
	}
	out.CavityML = float64(v.deeper(wallMM/grid+0.5)) * grid * grid * grid / 1000
	out.ShellML = math.Max(0, out.SolidML-out.CavityML)
	if wallMM < 3*grid {
		out.Warn("coarse_grid", "The wall of %s mm is under three cubes of %s mm; the estimate may be off by a third.", say.Figure(wallMM), say.Figure(grid))
	}
	return out, nil
}

// voxels holds squared distances in cubes, with an empty border all round.
type voxels struct {
	n    [3]int
	grid float64
	d    []float32
}

const far = float32(1e20)

func newVoxels(size [3]float64, grid float64) *voxels {
	v := &voxels{grid: grid}
	for axis := range 3 {
		v.n[axis] = int(math.Ceil(size[axis]/grid)) + 3
	}
	v.d = make([]float32, v.n[0]*v.n[1]*v.n[2])
	return v
}

// fill marks the cubes whose centres lie in the spans of a layer.
func (v *voxels) fill(layer int, spans []span, left float64) {
	for _, s := range spans {
		j := int(s.row) + 1
		if j < 1 || j >= v.n[1]-1 || layer+1 >= v.n[2]-1 {
			continue
		}
		from, to := int(math.Ceil((s.from-left)/v.grid-0.5)), int(math.Ceil((s.to-left)/v.grid-0.5))
		line := v.d[((layer+1)*v.n[1]+j)*v.n[0]:]
		for i := max(0, from); i < min(to, v.n[0]-2); i++ {
			line[i+1] = far
		}
	}
}

// distances replaces each mark by the squared distance to the nearest empty
// cube, one axis after the other; false means it was stopped.
func (v *voxels) distances(progress Progress) bool {
	stride := [3]int{1, v.n[0], v.n[0] * v.n[1]}
	longest := max(v.n[0], v.n[1], v.n[2])
	line, hull := make([]float32, longest), newParabolas(longest)
	for axis := range 3 {
		if progress != nil && !progress(float64(axis)/3) {
			return false
		}
		a, b := (axis+1)%3, (axis+2)%3
		for i := range v.n[a] {
			for j := range v.n[b] {
				start := i*stride[a] + j*stride[b]
				for k := range v.n[axis] {
					line[k] = v.d[start+k*stride[axis]]
				}
				hull.transform(line[:v.n[axis]], func(k int, d float32) { v.d[start+k*stride[axis]] = d })
			}
		}
	}
	return true
}

func (v *voxels) deeper(cubes float64) (count int) {
	limit := float32(cubes * cubes)
	for _, d := range v.d {
		if d > limit {
			count++
		}
	}
	return count
}

// parabolas is the lower envelope of the one-dimensional distance transform.
type parabolas struct {
	at    []int
	start []float64
}

func newParabolas(n int) *parabolas { return &parabolas{make([]int, n), make([]float64, n+1)} }

func (p *parabolas) transform(f []float32, put func(int, float32)) {
	k := 0
	p.at[0], p.start[0], p.start[1] = 0, math.Inf(-1), math.Inf(1)
	for q := 1; q < len(f); q++ {
		s := p.meet(f, q, p.at[k])
		for s <= p.start[k] {
			k--
			s = p.meet(f, q, p.at[k])
		}
		k++
		p.at[k], p.start[k], p.start[k+1] = q, s, math.Inf(1)
	}
	k = 0
	for q := range f {
		for p.start[k+1] < float64(q) {
			k++
		}
		d := float32(q - p.at[k])
		put(q, d*d+f[p.at[k]])
	}
}

// meet is where the parabolas over q and r cross.
func (p *parabolas) meet(f []float32, q, r int) float64 {
	return (float64(f[q]) + float64(q*q) - float64(f[r]) - float64(r*r)) / float64(2*(q-r))
}
