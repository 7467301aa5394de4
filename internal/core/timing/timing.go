// Package timing computes how long a print takes, for machines that flash a
// whole layer and for lasers that trace it, and how far an estimate or a claim
// is from what was measured.
package timing

import (
	"fmt"
	"math"

	"ojime/internal/core/quantity"
	"ojime/internal/core/regress"
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

// LaserInput is a print on a machine whose spot traces every layer. Area and
// perimeter are summed over the layers of one copy.
type LaserInput struct {
	Layers           int64    `json:"layers"`
	AreaMM2Total     float64  `json:"area_mm2_total"`
	PerimeterMMTotal float64  `json:"perimeter_mm_total"`
	Copies           int64    `json:"copies"`
	HatchMM          float64  `json:"hatch_mm"`
	HatchMMS         float64  `json:"hatch_mm_s"`
	ContourPasses    int64    `json:"contour_passes"`
	ContourMMS       float64  `json:"contour_mm_s"`
	SettleS          float64  `json:"settle_s"`
	StartS           *float64 `json:"start_s,omitempty"`
	EndS             *float64 `json:"end_s,omitempty"`
}

// LaserBreakdown is where the time of a laser print goes, in seconds.
type LaserBreakdown struct {
	ExposureS float64 `json:"exposure_s"`
	WaitS     float64 `json:"wait_s"`
	OverheadS float64 `json:"overhead_s"`
}

// LaserResult is the time of a print in seconds; LayerS is the mean layer.
// LightDuty is nil for a print that takes no time at all.
type LaserResult struct {
	Layers    int64          `json:"layers"`
	TotalS    float64        `json:"total_s"`
	LightOnS  float64        `json:"light_on_s"`
	LightDuty *float64       `json:"light_duty"`
	LayerS    float64        `json:"layer_s"`
	Breakdown LaserBreakdown `json:"breakdown"`
	quantity.Warnings
}

// Laser adds hatching (area over hatch distance and speed), contours (passes
// times perimeter over speed) and a settling time per layer.
func Laser(in LaserInput) (LaserResult, error) {
	var c quantity.Checks
	c.CountAbove("layers", in.Layers)
	c.NotBelow("area_mm2_total", in.AreaMM2Total)
	c.NotBelow("perimeter_mm_total", in.PerimeterMMTotal)
	c.CountAbove("copies", in.Copies)
	c.Above("hatch_mm", in.HatchMM)
	c.Above("hatch_mm_s", in.HatchMMS)
	c.CountNotBelow("contour_passes", in.ContourPasses)
	c.Above("contour_mm_s", in.ContourMMS)
	c.NotBelow("settle_s", in.SettleS)
	c.NotBelowIf("start_s", in.StartS)
	c.NotBelowIf("end_s", in.EndS)
	if c.Err() != nil {
		return LaserResult{}, c.Err()
	}
	light := float64(in.Copies) * (in.AreaMM2Total/(in.HatchMM*in.HatchMMS) +
		float64(in.ContourPasses)*in.PerimeterMMTotal/in.ContourMMS)
	parts := LaserBreakdown{
		ExposureS: light, WaitS: float64(in.Layers) * in.SettleS,
		OverheadS: quantity.Or(in.StartS, 0) + quantity.Or(in.EndS, 0),
	}
	out := LaserResult{
		Layers: in.Layers, LightOnS: light, Breakdown: parts,
		TotalS:   parts.ExposureS + parts.WaitS + parts.OverheadS,
		LayerS:   light/float64(in.Layers) + in.SettleS,
		Warnings: quantity.None(),
	}
	if out.TotalS > 0 {
		out.LightDuty = quantity.Ptr(out.LightOnS / out.TotalS)
	}
	return out, nil
}

// Load is how one machine's time grows with copies: FixedS > 0 per plate,
// PerCopyS >= 0, Capacity >= 1 copies a plate.
type Load struct {
	FixedS   float64 `json:"fixed_s"`
	PerCopyS float64 `json:"per_copy_s"`
	Capacity int64   `json:"capacity"`
}

// FillInput sets two machines against each other for a number of copies.
type FillInput struct {
	A      Load  `json:"a"`
	B      Load  `json:"b"`
	Copies int64 `json:"copies"`
}

// FillResult gives times in seconds and ratios a/b. Crossover is the fewest
// copies, up to 500, at which the machine slower for one becomes the faster.
type FillResult struct {
	AS        float64 `json:"a_s"`
	BS        float64 `json:"b_s"`
	Ratio     float64 `json:"ratio"`
	PerCopyAS float64 `json:"per_copy_a_s"`
	PerCopyBS float64 `json:"per_copy_b_s"`
	Crossover *int64  `json:"crossover"`
	RatioOne  float64 `json:"ratio_one"`
	RatioFull float64 `json:"ratio_full"`
	quantity.Warnings
}

const crossoverLimit = 500

// Fill computes ceil(n/capacity)·fixed + n·per copy on both sides. One copy
// and a full plate are different contests, so both ratios are given.
func Fill(in FillInput) (FillResult, error) {
	var c quantity.Checks
	for _, side := range []struct {
		at string
		Load
	}{{"a", in.A}, {"b", in.B}} {
		c.Above(side.at+".fixed_s", side.FixedS)
		c.NotBelow(side.at+".per_copy_s", side.PerCopyS)
		c.CountAbove(side.at+".capacity", side.Capacity)
	}
	c.CountAbove("copies", in.Copies)
	if c.Err() != nil {
		return FillResult{}, c.Err()
	}
	n := float64(in.Copies)
	a, b := in.A.time(in.Copies), in.B.time(in.Copies)
	a1, b1 := in.A.time(1), in.B.time(1)
	out := FillResult{
		AS: a, BS: b, Ratio: a / b, PerCopyAS: a / n, PerCopyBS: b / n, RatioOne: a1 / b1,
		RatioFull: (in.A.time(in.A.Capacity) / float64(in.A.Capacity)) / (in.B.time(in.B.Capacity) / float64(in.B.Capacity)),
		Warnings:  quantity.None(),
	}
	slow, fast := in.A, in.B
	switch {
	case quantity.Equal(a1, b1):
		return out, nil
	case a1 < b1:
		slow, fast = in.B, in.A
	}
	for copies := int64(1); copies <= crossoverLimit; copies++ {
		if quantity.Less(slow.time(copies), fast.time(copies)) {
			out.Crossover = &copies
			break
		}
	}
	return out, nil
}

func (l Load) time(copies int64) float64 {
	plates := (copies-1)/l.Capacity + 1
	return float64(plates)*l.FixedS + float64(copies)*l.PerCopyS
}

// BiasPair is one print: the software's estimate and what it took, seconds.
type BiasPair struct {
	EstimateS float64 `json:"estimate_s"`
	ActualS   float64 `json:"actual_s"`
}

// BiasInput needs at least one pair.
type BiasInput struct {
	Pairs     []BiasPair `json:"pairs"`
	EstimateS *float64   `json:"estimate_s,omitempty"`
}

// BiasResult gives the steady factor of an estimate with its interval, and the
// corrected estimate with its prediction interval, in seconds.
type BiasResult struct {
	Factor      *float64           `json:"factor"`
	FactorCI    *quantity.Interval `json:"factor_ci"`
	CorrectedS  *float64           `json:"corrected_s"`
	CorrectedPI *quantity.Interval `json:"corrected_pi"`
	quantity.Warnings
}

// Bias is the geometric mean of actual/estimate, with Student's interval on
// the log scale. One pair gives no interval and warns one_pair.
func Bias(in BiasInput) (BiasResult, error) {
	var c quantity.Checks
	if len(in.Pairs) == 0 {
		c.Fail("pairs", "are empty; at least one print with estimate and actual time is needed")
	}
	r := make([]float64, len(in.Pairs))
	for i, p := range in.Pairs {
		c.Above(fmt.Sprintf("pairs[%d].estimate_s", i), p.EstimateS)
		c.Above(fmt.Sprintf("pairs[%d].actual_s", i), p.ActualS)
		r[i] = math.Log(p.ActualS / p.EstimateS)
	}
	c.AboveIf("estimate_s", in.EstimateS)
	if c.Err() != nil {
		return BiasResult{}, c.Err()
	}
	mean, n := regress.Mean(r), float64(len(r))
	out := BiasResult{Factor: quantity.Exp(mean), Warnings: quantity.None()}
	if out.Factor == nil {
		out.Warn("unbounded", "Estimates and times differ beyond what can be computed; check their units.")
	} else if in.EstimateS != nil {
		out.CorrectedS = quantity.Ptr(*in.EstimateS * *out.Factor)
	}
	if len(r) == 1 {
		out.Warn("one_pair", "One print shows the factor but not how steady it is; a second one gives an interval.")
		return out, nil
	}
	sd, t := math.Sqrt(regress.SampleVar(r)), regress.T(n-1)
	out.FactorCI = quantity.ExpInterval(mean-t*sd/math.Sqrt(n), mean+t*sd/math.Sqrt(n))
	if out.FactorCI == nil {
		out.Warn("unbounded", "These prints differ too much to bound the factor; check their times.")
	}
	if in.EstimateS != nil {
		half := t * sd * math.Sqrt(1+1/n)
		pi := quantity.ExpInterval(mean-half, mean+half)
		if pi == nil {
			out.Warn("unbounded", "These prints differ too much to bound the corrected time; check their times.")
		} else {
			out.CorrectedPI = &quantity.Interval{*in.EstimateS * pi[0], *in.EstimateS * pi[1]}
		}
	}
	return out, nil
}

// HeadlineInput is a claimed speed in mm/h at a layer height in micrometres.
type HeadlineInput struct {
	LayerUM        float64  `json:"layer_um"`
	ClaimedMMH     float64  `json:"claimed_mm_h"`
	MeasuredLayerS *float64 `json:"measured_layer_s,omitempty"`
	ExposureS      *float64 `json:"exposure_s,omitempty"`
}

// HeadlineResult is the layer time that the claim implies, and what the
// measured layer gives in its place (nil without one).
type HeadlineResult struct {
	ImpliedLayerS float64  `json:"implied_layer_s"`
	MeasuredMMH   *float64 `json:"measured_mm_h"`
	Share         *float64 `json:"share"`
	quantity.Warnings
}

// Headline turns a claimed speed into the layer time it needs, and warns
// cannot_be when that is shorter than the exposure alone.
func Headline(in HeadlineInput) (HeadlineResult, error) {
	var c quantity.Checks
	c.Above("layer_um", in.LayerUM)
	c.Above("claimed_mm_h", in.ClaimedMMH)
	c.AboveIf("measured_layer_s", in.MeasuredLayerS)
	c.AboveIf("exposure_s", in.ExposureS)
	if c.Err() != nil {
		return HeadlineResult{}, c.Err()
	}
	out := HeadlineResult{ImpliedLayerS: in.LayerUM * mmPerHour / in.ClaimedMMH, Warnings: quantity.None()}
	if in.MeasuredLayerS != nil {
		out.MeasuredMMH = quantity.Ptr(in.LayerUM * mmPerHour / *in.MeasuredLayerS)
		out.Share = quantity.Ptr(out.ImpliedLayerS / *in.MeasuredLayerS)
	}
	if in.ExposureS != nil && quantity.Less(out.ImpliedLayerS, *in.ExposureS) {
		out.Warn("cannot_be", "The claim leaves %.3g s for a layer, and the exposure alone takes %.3g s.", out.ImpliedLayerS, *in.ExposureS)
	}
	return out, nil
}
