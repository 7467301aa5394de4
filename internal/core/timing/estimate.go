package timing

import (
	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

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
