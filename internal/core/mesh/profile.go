package mesh

import (
	"math"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// ProfileResult is a mesh with what each layer holds. Layers are cut at their
// mid-height; SliceVolumeML is Σ area·layer height, in which overlapping
// bodies count once.
type ProfileResult struct {
	Format           string  `json:"format"`
	Triangles        int64   `json:"triangles"`
	BoundsMM         Bounds  `json:"bounds_mm"`
	SurfaceMM2       float64 `json:"surface_mm2"`
	SignedVolumeML   float64 `json:"signed_volume_ml"`
	SliceVolumeML    float64 `json:"slice_volume_ml"`
	Shells           int64   `json:"shells"`
	OpenEdges        int64   `json:"open_edges"`
	NonmanifoldEdges int64   `json:"nonmanifold_edges"`
	Layers           []Layer `json:"layers"`
	quantity.Warnings
}

// overlapShare is how far the two volumes may differ before bodies are said to
// overlap.
const overlapShare = 0.01

// Profile measures and slices a mesh at layers of layerUM > 0 µm. Besides the
// warnings of Measure it gives shells_overlap. Progress may be nil.
func Profile(m *Mesh, layerUM float64, progress Progress) (ProfileResult, error) {
	s, err := NewSlicer(m.Triangles, layerUM)
	if err != nil {
		return ProfileResult{}, err
	}
	measured := make(chan Facts, 1)
	var failed error
	go func() { // beside the slicing
		defer close(measured)
		defer caught(&failed)
		measured <- Measure(m)
	}()
	layers, err := s.Layers(progress)
	f, whole := <-measured
	if err == nil && !whole {
		err = failed
	}
	if err != nil {
		return ProfileResult{}, err
	}
	return f.profile(layers, layerUM), nil
}

func (f Facts) profile(layers []Layer, layerUM float64) ProfileResult {
	out := ProfileResult{Format: f.Format, Triangles: f.Triangles, BoundsMM: f.BoundsMM, SurfaceMM2: f.SurfaceMM2,
		SignedVolumeML: f.SignedVolumeML, Shells: f.Shells, OpenEdges: f.OpenEdges, NonmanifoldEdges: f.NonmanifoldEdges,
		Layers: layers, Warnings: quantity.None()}
	for _, l := range layers {
		out.SliceVolumeML += l.AreaMM2 * layerUM / 1e6
	}
	if solid := math.Abs(f.SignedVolumeML); quantity.Less(overlapShare*math.Max(solid, out.SliceVolumeML), math.Abs(out.SliceVolumeML-solid)) {
		out.Warn("shells_overlap", "The faces enclose %s ml but the slices hold %s ml: bodies overlap, or the mesh is not closed. Use the slice volume.", say.Figures(solid, 4), say.Figures(out.SliceVolumeML, 4))
	}
	out.Warnings.Warnings = append(out.Warnings.Warnings, f.Warnings.Warnings...)
	return out
}
