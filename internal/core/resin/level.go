package resin

import (
	"fmt"
	"math"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// LevelInput is a vat while a print runs, in ml: what it held at the start, what
// was poured in since, and the liquid that each layer takes. Layer is the one in
// hand, from 1 (0 before the first).
type LevelInput struct {
	LayersML []float64 `json:"layers_ml"`
	Layer    int64     `json:"layer"`
	FillML   float64   `json:"fill_ml"`
	DeadML   float64   `json:"dead_ml"`
	MaxML    float64   `json:"max_ml"`
	AddedML  float64   `json:"added_ml"`
}

// LevelResult is what the vat holds now, the layer in which it runs dry (nil if
// it lasts), what is still short, and how much may be poured in now.
type LevelResult struct {
	LevelML  float64 `json:"level_ml"`
	DryLayer *int64  `json:"dry_layer"`
	ShortML  float64 `json:"short_ml"`
	RoomML   float64 `json:"room_ml"`
	quantity.Warnings
}

// Level takes the layers so far out of what was in the vat. It warns too_full
// when more was poured in than the vat holds.
func Level(in LevelInput) (LevelResult, error) {
	var c quantity.Checks
	for i, ml := range in.LayersML {
		c.NotBelow(fmt.Sprintf("layers_ml[%d]", i), ml)
	}
	c.CountNotBelow("layer", in.Layer)
	c.NotBelow("fill_ml", in.FillML)
	c.NotBelow("dead_ml", in.DeadML)
	c.NotBelow("added_ml", in.AddedML)
	if in.MaxML <= in.DeadML {
		c.Fail("max_ml", "is %s ml, not above the dead volume of %s ml; correct either", say.Figures(in.MaxML, 6), say.Figures(in.DeadML, 6))
	}
	if c.Err() != nil {
		return LevelResult{}, c.Err()
	}
	done := min(int(in.Layer), len(in.LayersML))
	var used, ahead float64
	for _, ml := range in.LayersML[:done] {
		used += ml
	}
	out := LevelResult{LevelML: math.Max(0, in.FillML+in.AddedML-used), Warnings: quantity.None()}
	usable := math.Max(0, out.LevelML-in.DeadML)
	for i, ml := range in.LayersML[done:] {
		ahead += ml
		if out.DryLayer == nil && quantity.Less(usable, ahead) {
			layer := int64(done + i + 1)
			out.DryLayer = &layer
		}
	}
	out.ShortML = math.Max(0, ahead-usable)
	out.RoomML = math.Max(0, in.MaxML-out.LevelML)
	if quantity.Less(in.MaxML, out.LevelML) {
		out.Warn("too_full", "By this count the vat holds %s ml, more than its %s ml; check what was poured in.", say.Figure(out.LevelML), say.Figure(in.MaxML))
	}
	return out, nil
}
