package exposure

import (
	"fmt"
	"math"

	"ojime/internal/core/quantity"
)

// SharedPair is the calibrated exposure of one resin at one layer height on
// both machines, in seconds.
type SharedPair struct {
	FromS float64 `json:"from_s"`
	ToS   float64 `json:"to_s"`
}

// TransferInput carries an exposure either by the irradiances of both machines
// (used where both are given) or by resins calibrated on both.
type TransferInput struct {
	ExposureS           float64      `json:"exposure_s"`
	FromIrradianceMWCM2 *float64     `json:"from_irradiance_mw_cm2,omitempty"`
	ToIrradianceMWCM2   *float64     `json:"to_irradiance_mw_cm2,omitempty"`
	Shared              []SharedPair `json:"shared,omitempty"`
}

// TransferResult is the borrowed exposure and the bracket to test, in seconds.
type TransferResult struct {
	Factor    float64 `json:"factor"`
	Basis     string  `json:"basis"`
	ExposureS float64 `json:"exposure_s"`
	FromS     float64 `json:"from_s"`
	ToS       float64 `json:"to_s"`
	quantity.Warnings
}

// Transfer carries the dose, not the seconds: factor is from/to irradiance, or
// the geometric mean of to/from over shared resins. The bracket is ±20 %. It
// always warns borrowed, and one_pair for a single shared resin.
func Transfer(in TransferInput) (TransferResult, error) {
	var c quantity.Checks
	c.Above("exposure_s", in.ExposureS)
	c.AboveIf("from_irradiance_mw_cm2", in.FromIrradianceMWCM2)
	c.AboveIf("to_irradiance_mw_cm2", in.ToIrradianceMWCM2)
	for i, p := range in.Shared {
		c.Above(fmt.Sprintf("shared[%d].from_s", i), p.FromS)
		c.Above(fmt.Sprintf("shared[%d].to_s", i), p.ToS)
	}
	byIrradiance := in.FromIrradianceMWCM2 != nil && in.ToIrradianceMWCM2 != nil
	if !byIrradiance && len(in.Shared) == 0 {
		c.Fail("shared", "is empty and the irradiances are not both known; give either")
	}
	if c.Err() != nil {
		return TransferResult{}, c.Err()
	}
	out := TransferResult{Basis: "irradiance", Warnings: quantity.None()}
	if byIrradiance {
		out.Factor = *in.FromIrradianceMWCM2 / *in.ToIrradianceMWCM2
	} else {
		out.Basis, out.Factor = "shared_resins", meanRatio(in.Shared)
		if len(in.Shared) == 1 {
			out.Warn("one_pair", "One shared resin carries this factor; a second one would show how steady it is.")
		}
	}
	out.ExposureS = in.ExposureS * out.Factor
	out.FromS, out.ToS = 0.8*out.ExposureS, 1.2*out.ExposureS
	out.Warn("borrowed", "This exposure is borrowed from another machine; test the bracket before trusting it.")
	return out, nil
}

// ForAnotherResin carries a transfer on to another resin by machines on which both are
// calibrated at one layer height (at least one; FromS is the exposure of the resin that it
// comes from, ToS that of the other): times the geometric mean of their ratios, with a
// bracket that is wider by as much again, since it is borrowed twice. It warns another_resin,
// and one_machine for a single machine.
func ForAnotherResin(r TransferResult, both []SharedPair) (TransferResult, error) {
	var c quantity.Checks
	if len(both) == 0 {
		c.Fail("both", "is empty; name a machine on which both resins are calibrated")
	}
	for i, p := range both {
		c.Above(fmt.Sprintf("both[%d].from_s", i), p.FromS)
		c.Above(fmt.Sprintf("both[%d].to_s", i), p.ToS)
	}
	if c.Err() != nil {
		return TransferResult{}, c.Err()
	}
	ratio := meanRatio(both)
	r.Factor, r.ExposureS = r.Factor*ratio, r.ExposureS*ratio
	r.FromS, r.ToS = 0.8*r.FromS*ratio, 1.2*r.ToS*ratio
	r.Warn("another_resin", "It comes from another resin too: that is borrowed twice, so the bracket is wider.")
	if len(both) == 1 {
		r.Warn("one_machine", "One machine on which both resins are calibrated carries this; a second one would show how steady it is.")
	}
	return r, nil
}

func meanRatio(pairs []SharedPair) float64 {
	var sum float64
	for _, p := range pairs {
		sum += math.Log(p.ToS / p.FromS)
	}
	return math.Exp(sum / float64(len(pairs)))
}

// Bracket is the first exposure and the step, in s, of so many cells that span fromS
// to toS in steps of the dial: never below one step of it, and never short of toS by
// more than the dial's rounding. cells is at least 2, dialS above 0.
func Bracket(fromS, toS float64, cells int64, dialS float64) (firstS, stepS float64) {
	firstS = dialled(fromS, dialS)
	stepS = max(1, quantity.Ceil((toS-fromS)/float64(cells-1)/dialS)) * dialS
	return firstS, stepS
}
