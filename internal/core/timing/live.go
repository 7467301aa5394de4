package timing

import (
	"fmt"

	"ojime/internal/core/quantity"
)

// LiveInput is a print that runs: the model's seconds of each layer and of the
// start, the total to plan with (corrected; nil is the model's own) and its
// interval, and how long it printed so far, pauses left out. All in seconds.
type LiveInput struct {
	LayerS   []float64          `json:"layer_s"`
	StartS   float64            `json:"start_s"`
	ModelS   float64            `json:"model_s"`
	TotalS   *float64           `json:"total_s,omitempty"`
	TotalPI  *quantity.Interval `json:"total_pi,omitempty"`
	RunningS float64            `json:"running_s"`
	// Layer is the one that the machine itself says it is at, and LayerS how long
	// ago it began, both nil where nothing but the clock tells.
	Layer       *int64   `json:"layer,omitempty"`
	SinceLayerS *float64 `json:"since_layer_s,omitempty"`
}

// LiveResult is where the print should be: the layer in hand (1-based, 0 before
// the first), the share of the time that is over, and the seconds left with
// their interval. It warns overdue when it has run longer than planned.
type LiveResult struct {
	Layer  int64              `json:"layer"`
	Layers int64              `json:"layers"`
	Share  float64            `json:"share"`
	LeftS  float64            `json:"left_s"`
	LeftPI *quantity.Interval `json:"left_pi"`
	quantity.Warnings
}

// stalledAfter is how many times its own time a layer may take before the print is
// said to stand still, and stalledLeastS the least of that.
const (
	stalledAfter  = 5
	stalledLeastS = 60
)

// Live stretches the model's layers to the total that is planned with: an
// estimate that is wrong is wrong by a steady factor. Where the machine says its
// layer, what is left is that of the layers to come, stretched alike; it warns
// stalled when a layer has taken five times its time and a minute.
func Live(in LiveInput) (LiveResult, error) {
	var c quantity.Checks
	if len(in.LayerS) == 0 {
		c.Fail("layer_s", "are empty; the model's layers are needed")
	}
	for i, s := range in.LayerS {
		c.NotBelow(fmt.Sprintf("layer_s[%d]", i), s)
	}
	c.NotBelow("start_s", in.StartS)
	c.Above("model_s", in.ModelS)
	c.AboveIf("total_s", in.TotalS)
	c.NotBelow("running_s", in.RunningS)
	c.NotBelowIf("since_layer_s", in.SinceLayerS)
	if in.Layer != nil {
		c.CountNotBelow("layer", *in.Layer)
	}
	if c.Err() != nil {
		return LiveResult{}, c.Err()
	}
	total := quantity.Or(in.TotalS, in.ModelS)
	out := LiveResult{Layers: int64(len(in.LayerS)), LeftS: max(0, total-in.RunningS), Share: min(1, in.RunningS/total), Warnings: quantity.None()}
	if in.TotalPI != nil {
		out.LeftPI = &quantity.Interval{max(0, in.TotalPI[0]-in.RunningS), max(0, in.TotalPI[1]-in.RunningS)}
	}
	modelled := in.RunningS * in.ModelS / total
	if begins := in.StartS; modelled >= begins {
		for _, s := range in.LayerS {
			out.Layer++
			if begins += s; modelled < begins {
				break
			}
		}
	}
	if in.Layer != nil {
		out.tell(in, total)
	}
	if late := quantity.Or(in.TotalPI, quantity.Interval{total, total}); quantity.Less(late[1], in.RunningS) {
		out.Warn("overdue", "It has printed for longer than foreseen; look whether it still moves.")
	}
	return out, nil
}

// tell puts the layer that the machine says in the place of the clock's.
func (r *LiveResult) tell(in LiveInput, total float64) {
	r.Layer = min(*in.Layer, r.Layers)
	left := in.ModelS - in.StartS
	for _, s := range in.LayerS[:r.Layer] {
		left -= s
	}
	current := in.StartS
	if r.Layer > 0 {
		current = in.LayerS[r.Layer-1]
	} else {
		left = in.ModelS
	}
	since := quantity.Or(in.SinceLayerS, 0)
	// Of the layer in hand, what it has not used yet is still to come.
	left = max(0, left) + max(0, current-since)
	if r.Layer == 0 {
		left = max(0, in.ModelS-since)
	}
	scaled := left * total / in.ModelS
	if in.TotalPI != nil {
		r.LeftPI = &quantity.Interval{scaled * in.TotalPI[0] / total, scaled * in.TotalPI[1] / total}
	}
	r.LeftS, r.Share = scaled, 1-min(1, left/in.ModelS)
	if limit := max(stalledLeastS, stalledAfter*current*total/in.ModelS); quantity.Less(limit, since) {
		r.Warn("stalled", "The machine has said the same layer for %.0f min; look whether it stands still.", since/60)
	}
}
