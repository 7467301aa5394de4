package mesh

import (
	"math"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// Bounds is the box around a mesh in millimetres.
type Bounds struct {
	Min [3]float64 `json:"min"`
	Max [3]float64 `json:"max"`
}

// Facts is what a mesh is, before anything is printed. OutlineMM2 is the
// outline length of a slice integrated over the height: divided by a layer
// height it is the summed outline length of all layers.
type Facts struct {
	Format           string  `json:"format"`
	Triangles        int64   `json:"triangles"`
	BoundsMM         Bounds  `json:"bounds_mm"`
	SurfaceMM2       float64 `json:"surface_mm2"`
	SignedVolumeML   float64 `json:"signed_volume_ml"`
	OutlineMM2       float64 `json:"outline_mm2"`
	Shells           int64   `json:"shells"`
	OpenEdges        int64   `json:"open_edges"`
	NonmanifoldEdges int64   `json:"nonmanifold_edges"`
	quantity.Warnings
}

// Sizes that suggest another unit than millimetres, for the longest side.
const (
	perhapsMetresMM = 0.5
	perhapsInchesMM = 10
)

// Measure computes the facts. Volume is Σ v0·(v1×v2)/6 over the triangles
// (Zhang & Chen 2001); edges are counted after welding identical corners. It
// warns not_closed, nonmanifold, inverted and units_doubtful.
func Measure(m *Mesh) Facts {
	f := Facts{Format: m.Format, Triangles: int64(len(m.Triangles)), Warnings: quantity.None()}
	f.BoundsMM = Bounds{Min: [3]float64{math.Inf(1), math.Inf(1), math.Inf(1)}, Max: [3]float64{math.Inf(-1), math.Inf(-1), math.Inf(-1)}}
	var six float64
	for i := range m.Triangles {
		t := &m.Triangles[i]
		for corner := range 3 {
			for axis := range 3 {
				v := float64(t[corner][axis])
				f.BoundsMM.Min[axis] = min(f.BoundsMM.Min[axis], v)
				f.BoundsMM.Max[axis] = max(f.BoundsMM.Max[axis], v)
			}
		}
		n := normal(*t)
		area := math.Sqrt(n[0]*n[0]+n[1]*n[1]+n[2]*n[2]) / 2
		f.SurfaceMM2 += area
		// A triangle's cut by a level, integrated over height, is its area
		// times the sine of its tilt.
		f.OutlineMM2 += math.Hypot(n[0], n[1]) / 2
		// v0·(v1×v2), about the first corner of all to keep sums small.
		a, o := t[0], m.Triangles[0][0]
		six += (float64(a[0])-float64(o[0]))*n[0] + (float64(a[1])-float64(o[1]))*n[1] + (float64(a[2])-float64(o[2]))*n[2]
	}
	f.SignedVolumeML = six / 6 / 1000
	f.Shells, f.OpenEdges, f.NonmanifoldEdges = topology(m.Triangles)
	f.judge()
	return f
}

// Size is the length of the box along x, y and z in millimetres.
func (f Facts) Size() [3]float64 {
	var out [3]float64
	for axis := range out {
		out[axis] = f.BoundsMM.Max[axis] - f.BoundsMM.Min[axis]
	}
	return out
}

// Size is the length of the box round triangles along x, y and z in mm.
func Size(triangles []Triangle) [3]float64 {
	size, _ := bounds(triangles)
	return size
}

// BoundsOf is the box round triangles in mm.
func BoundsOf(triangles []Triangle) Bounds {
	size, bottom := bounds(triangles)
	return Bounds{Min: bottom, Max: [3]float64{bottom[0] + size[0], bottom[1] + size[1], bottom[2] + size[2]}}
}

func (f *Facts) judge() {
	if f.OpenEdges > 0 {
		f.Warn("not_closed", "The mesh is not watertight: %d edges belong to one triangle only, so its volume is doubtful.", f.OpenEdges)
	}
	if f.NonmanifoldEdges > 0 {
		f.Warn("nonmanifold", "%d edges are shared by more than two triangles; slicers may fill such places differently.", f.NonmanifoldEdges)
	}
	if f.SignedVolumeML < 0 {
		f.Warn("inverted", "The mesh is inside out (its faces point inwards); the size of its volume is used.")
	}
	if f.Format == "3mf" {
		return // it states its unit
	}
	size := f.Size()
	switch longest := math.Max(size[0], math.Max(size[1], size[2])); {
	case longest < perhapsMetresMM:
		f.Warn("units_doubtful", "The longest side is %s mm; the file may be in metres. Scale it in your software and import it again.", say.Figure(longest))
	case longest < perhapsInchesMM:
		f.Warn("units_doubtful", "The longest side is %s mm; the file may be in inches. Scale it in your software and import it again.", say.Figure(longest))
	}
}

// normal is (b−a)×(c−a): twice the area long.
func normal(t Triangle) [3]float64 {
	ux, uy, uz := float64(t[1][0])-float64(t[0][0]), float64(t[1][1])-float64(t[0][1]), float64(t[1][2])-float64(t[0][2])
	vx, vy, vz := float64(t[2][0])-float64(t[0][0]), float64(t[2][1])-float64(t[0][1]), float64(t[2][2])-float64(t[0][2])
	return [3]float64{uy*vz - uz*vy, uz*vx - ux*vz, ux*vy - uy*vx}
}
