// Package timing computes how long a print takes, for machines that flash a
// whole layer and for lasers that trace it, and how far an estimate or a claim
// is from what was measured.
package timing

import (
	"fmt"
	"math"

	"ojime/internal/core/quantity"
)

// Move is one stage of a lift or retract: millimetres >= 0 at mm/min > 0.
type Move struct {
	MM    float64 `json:"mm"`
	MMMin float64 `json:"mm_min"`
}

// Bottom is the first layers: how many (>= 0) and their exposure in seconds.
type Bottom struct {
	Layers    int64   `json:"layers"`
	ExposureS float64 `json:"exposure_s"`
}

// Wait holds the pauses of a layer in seconds >= 0; nil is 0.
type Wait struct {
	BeforeExposureS *float64 `json:"before_exposure_s,omitempty"`
	AfterExposureS  *float64 `json:"after_exposure_s,omitempty"`
	AfterLiftS      *float64 `json:"after_lift_s,omitempty"`
}

// MaskedInput is a print on a masked-LCD or projector machine. ReleaseS, for
// machines that tilt or peel in a fixed time, replaces lift and retract, which
// are needed without it; bottom moves default to the normal ones.
type MaskedInput struct {
	HeightMM         float64  `json:"height_mm"`
	LayerUM          float64  `json:"layer_um"`
	Bottom           Bottom   `json:"bottom"`
	TransitionLayers *int64   `json:"transition_layers,omitempty"`
	ExposureS        float64  `json:"exposure_s"`
	Lift             []Move   `json:"lift,omitempty"`
	Retract          []Move   `json:"retract,omitempty"`
	BottomLift       []Move   `json:"bottom_lift,omitempty"`
	BottomRetract    []Move   `json:"bottom_retract,omitempty"`
	Wait             *Wait    `json:"wait,omitempty"`
	ReleaseS         *float64 `json:"release_s,omitempty"`
	StartS           *float64 `json:"start_s,omitempty"`
	EndS             *float64 `json:"end_s,omitempty"`
}

// MaskedBreakdown is where the time of a masked print goes, in seconds over
// the job; release counts as lift.
type MaskedBreakdown struct {
	ExposureS float64 `json:"exposure_s"`
	LiftS     float64 `json:"lift_s"`
	RetractS  float64 `json:"retract_s"`
	WaitS     float64 `json:"wait_s"`
	OverheadS float64 `json:"overhead_s"`
}

// MaskedResult is the time of a print in seconds; LayerS is one normal layer,
// CeilingMMH the speed it could at most reach, in mm/h.
type MaskedResult struct {
	Layers     int64           `json:"layers"`
	TotalS     float64         `json:"total_s"`
	LightOnS   float64         `json:"light_on_s"`
	LightDuty  float64         `json:"light_duty"`
	LayerS     float64         `json:"layer_s"`
	CeilingMMH float64         `json:"ceiling_mm_h"`
	Breakdown  MaskedBreakdown `json:"breakdown"`
	quantity.Warnings
}

// ceilSlack keeps a height that is a whole number of layers from gaining one
// by rounding.
const ceilSlack = 1e-6

// mmPerHour converts micrometres per second to millimetres per hour.
const mmPerHour = 3.6

// Masked adds up a print in which a layer costs the same however full it is:
// bottom layers with bottom exposure and moves, transition layers stepping
// linearly to the normal exposure, then normal layers. Errors name the field.
func Masked(in MaskedInput) (MaskedResult, error) {
	if err := checkMasked(in); err != nil {
		return MaskedResult{}, err
	}
	layers := math.Max(1, math.Ceil(in.HeightMM*1000/in.LayerUM-ceilSlack))
	steps := float64(quantity.Or(in.TransitionLayers, 0))
	bottom := math.Min(float64(in.Bottom.Layers), layers)
	transition := math.Min(steps, layers-bottom)
	normal := layers - bottom - transition

	exposure := bottom*in.Bottom.ExposureS + normal*in.ExposureS +
		transition*in.Bottom.ExposureS + (in.ExposureS-in.Bottom.ExposureS)*transition*(transition+1)/2/(steps+1)

	lift, retract := seconds(in.Lift), seconds(in.Retract)
	bottomLift, bottomRetract := lift, retract
	if in.BottomLift != nil {
		bottomLift = seconds(in.BottomLift)
	}
	if in.BottomRetract != nil {
		bottomRetract = seconds(in.BottomRetract)
	}
	if in.ReleaseS != nil {
		lift, bottomLift, retract, bottomRetract = *in.ReleaseS, *in.ReleaseS, 0, 0
	}
	wait := quantity.Or(in.Wait, Wait{})
	waits := quantity.Or(wait.BeforeExposureS, 0) + quantity.Or(wait.AfterExposureS, 0) + quantity.Or(wait.AfterLiftS, 0)

	parts := MaskedBreakdown{
		ExposureS: exposure,
		LiftS:     bottom*bottomLift + (layers-bottom)*lift,
		RetractS:  bottom*bottomRetract + (layers-bottom)*retract,
		WaitS:     layers * waits,
		OverheadS: quantity.Or(in.StartS, 0) + quantity.Or(in.EndS, 0),
	}
	out := MaskedResult{
		Layers: int64(layers), LightOnS: exposure, Breakdown: parts,
		TotalS:   parts.ExposureS + parts.LiftS + parts.RetractS + parts.WaitS + parts.OverheadS,
		LayerS:   in.ExposureS + lift + retract + waits,
		Warnings: quantity.None(),
	}
	out.LightDuty = out.LightOnS / out.TotalS
	out.CeilingMMH = in.LayerUM * mmPerHour / out.LayerS
	return out, nil
}

func checkMasked(in MaskedInput) error {
	var c quantity.Checks
	c.Above("height_mm", in.HeightMM)
	c.Above("layer_um", in.LayerUM)
	c.CountNotBelow("bottom.layers", in.Bottom.Layers)
	c.Above("bottom.exposure_s", in.Bottom.ExposureS)
	c.CountNotBelow("transition_layers", quantity.Or(in.TransitionLayers, 0))
	c.Above("exposure_s", in.ExposureS)
	if in.ReleaseS == nil && len(in.Lift) == 0 {
		c.Fail("lift", "is missing; give lift and retract, or release_s")
	}
	if in.ReleaseS == nil && len(in.Retract) == 0 {
		c.Fail("retract", "is missing; give lift and retract, or release_s")
	}
	checkMoves(&c, "lift", in.Lift)
	checkMoves(&c, "retract", in.Retract)
	checkMoves(&c, "bottom_lift", in.BottomLift)
	checkMoves(&c, "bottom_retract", in.BottomRetract)
	if in.Wait != nil {
		c.NotBelowIf("wait.before_exposure_s", in.Wait.BeforeExposureS)
		c.NotBelowIf("wait.after_exposure_s", in.Wait.AfterExposureS)
		c.NotBelowIf("wait.after_lift_s", in.Wait.AfterLiftS)
	}
	c.NotBelowIf("release_s", in.ReleaseS)
	c.NotBelowIf("start_s", in.StartS)
	c.NotBelowIf("end_s", in.EndS)
	return c.Err()
}

func checkMoves(c *quantity.Checks, field string, moves []Move) {
	for i, m := range moves {
		c.NotBelow(fmt.Sprintf("%s[%d].mm", field, i), m.MM)
		c.Above(fmt.Sprintf("%s[%d].mm_min", field, i), m.MMMin)
	}
}

func seconds(moves []Move) float64 {
	var s float64
	for _, m := range moves {
		s += m.MM / m.MMMin * 60
	}
	return s
}
