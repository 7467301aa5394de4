// Package resin works out whether the vat lasts: how much a plate needs, in
// which layer the vat runs dry, and how much to top up.
package resin

import (
	"fmt"
	"math"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// Vat holds levels in millilitres: FillML now, DeadML below which the plate no
// longer reaches resin, MaxML. FillML <= MaxML and MaxML > DeadML.
type Vat struct {
	FillML float64 `json:"fill_ml"`
	DeadML float64 `json:"dead_ml"`
	MaxML  float64 `json:"max_ml"`
}

// Layer is the solid of one layer in millilitres and its time in seconds.
type Layer struct {
	ML float64 `json:"ml"`
	S  float64 `json:"s"`
}

// BudgetInput is a plate and a vat. SolidML is model, supports and raft;
// LiquidRatio is liquid per solid volume (cured resin is denser; default 1);
// DripML leaves with the parts (default 0). Layers, or count and time of an
// even part.
type BudgetInput struct {
	SolidML     float64  `json:"solid_ml"`
	LiquidRatio *float64 `json:"liquid_ratio,omitempty"`
	DripML      *float64 `json:"drip_ml,omitempty"`
	Vat         Vat      `json:"vat"`
	Layers      []Layer  `json:"layers,omitempty"`
	LayerCount  *int64   `json:"layer_count,omitempty"`
	LayerS      *float64 `json:"layer_s,omitempty"`
}

// BudgetResult is the need in millilitres and when the vat runs dry: DryLayer
// counts from 1, DryAtS is the start of that layer; both nil if it lasts.
type BudgetResult struct {
	NeededML float64  `json:"needed_ml"`
	UsableML float64  `json:"usable_ml"`
	RunsDry  bool     `json:"runs_dry"`
	DryLayer *int64   `json:"dry_layer"`
	DryAtS   *float64 `json:"dry_at_s"`
	ShortML  float64  `json:"short_ml"`
	Refills  int64    `json:"refills"`
	LeftML   float64  `json:"left_ml"`
	quantity.Warnings
}

// Budget runs the vat through the layers. It runs dry in the first layer whose
// cumulative liquid exceeds what is usable; an empty usable volume is dry in
// layer 1. It warns layers_disagree when the layers do not add up to SolidML.
func Budget(in BudgetInput) (BudgetResult, error) {
	if err := checkBudget(in); err != nil {
		return BudgetResult{}, err
	}
	ratio := quantity.Or(in.LiquidRatio, 1)
	out := BudgetResult{
		NeededML: in.SolidML*ratio + quantity.Or(in.DripML, 0),
		UsableML: math.Max(0, in.Vat.FillML-in.Vat.DeadML),
		Warnings: quantity.None(),
	}
	liquid := in.SolidML * ratio
	if in.Layers != nil {
		var solid float64
		for _, l := range in.Layers {
			solid += l.ML
		}
		liquid = solid * ratio
		if quantity.Less(0.01*in.SolidML, math.Abs(solid-in.SolidML)) {
			out.Warn("layers_disagree", "The layers add up to %s ml, the solid volume is %s ml; check which one is right.", say.Figures(solid, 4), say.Figures(in.SolidML, 4))
		}
		out.dryInLayers(in.Layers, ratio)
	} else {
		out.dryInEven(liquid/float64(*in.LayerCount), *in.LayerCount, *in.LayerS)
	}
	room := in.Vat.MaxML - in.Vat.DeadML
	if out.RunsDry {
		out.ShortML = math.Max(0, liquid-out.UsableML)
		out.Refills = int64(quantity.Ceil(out.ShortML / room))
	}
	out.LeftML = math.Max(0, math.Max(in.Vat.FillML, in.Vat.DeadML)+float64(out.Refills)*room-out.NeededML)
	return out, nil
}

func (out *BudgetResult) dry(layer int64, at float64) {
	out.RunsDry, out.DryLayer, out.DryAtS = true, &layer, &at
}

func (out *BudgetResult) dryInLayers(layers []Layer, ratio float64) {
	var liquid, start float64
	for i, l := range layers {
		liquid += l.ML * ratio
		if out.UsableML == 0 || quantity.Less(out.UsableML, liquid) {
			out.dry(int64(i)+1, start)
			return
		}
		start += l.S
	}
}

func (out *BudgetResult) dryInEven(perLayer float64, count int64, layerS float64) {
	layer := quantity.Floor(out.UsableML/perLayer) + 1
	if layer <= float64(count) {
		out.dry(int64(layer), (layer-1)*layerS)
	}
}

func checkBudget(in BudgetInput) error {
	var c quantity.Checks
	c.Above("solid_ml", in.SolidML)
	c.AboveIf("liquid_ratio", in.LiquidRatio)
	c.NotBelowIf("drip_ml", in.DripML)
	c.NotBelow("vat.fill_ml", in.Vat.FillML)
	c.NotBelow("vat.dead_ml", in.Vat.DeadML)
	c.NotBelow("vat.max_ml", in.Vat.MaxML)
	if in.Vat.FillML > in.Vat.MaxML {
		c.Fail("vat.fill_ml", "is %s ml in a vat of at most %s ml; correct either", say.Figures(in.Vat.FillML, 6), say.Figures(in.Vat.MaxML, 6))
	}
	if in.Vat.MaxML <= in.Vat.DeadML {
		c.Fail("vat.max_ml", "is %s ml, not above the dead volume of %s ml; correct either", say.Figures(in.Vat.MaxML, 6), say.Figures(in.Vat.DeadML, 6))
	}
	for i, l := range in.Layers {
		c.NotBelow(fmt.Sprintf("layers[%d].ml", i), l.ML)
		c.NotBelow(fmt.Sprintf("layers[%d].s", i), l.S)
	}
	switch {
	case in.Layers != nil && len(in.Layers) == 0:
		c.Fail("layers", "are empty; give the layers, or layer_count and layer_s")
	case in.Layers != nil:
	case in.LayerCount == nil && in.LayerS == nil:
		c.Fail("layers", "are missing; give them, or layer_count and layer_s")
	case in.LayerCount == nil:
		c.Fail("layer_count", "is missing while layer_s is given")
	case in.LayerS == nil:
		c.Fail("layer_s", "is missing while layer_count is given")
	default:
		c.CountAbove("layer_count", *in.LayerCount)
		c.Above("layer_s", *in.LayerS)
	}
	return c.Err()
}
