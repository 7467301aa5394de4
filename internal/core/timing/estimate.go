package timing

import (
	"fmt"
	"math"

	"ojime/internal/core/quantity"
	"ojime/internal/core/stats"
	"ojime/internal/say"
)

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
	mean, n := stats.Mean(r), float64(len(r))
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
	sd, t := math.Sqrt(stats.SampleVar(r)), stats.T(n-1)
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
		out.Warn("cannot_be", "The claim leaves %s s for a layer, and the exposure alone takes %s s.", say.Figure(out.ImpliedLayerS), say.Figure(*in.ExposureS))
	}
	return out, nil
}
