package resin

import "ojime/internal/core/quantity"

// Shares of the stated time between which a wash or a cure counts as done as
// stated: a practitioner's tolerance, not a measured one.
const (
	shortShare = 0.75
	longShare  = 1.25
)

// TreatmentInput is a wash or cure as it was done and as the resin's label
// states it, both in seconds; stated is nil where the label says nothing.
type TreatmentInput struct {
	TookS   float64  `json:"took_s"`
	StatedS *float64 `json:"stated_s"`
}

// TreatmentResult is took/stated (nil without a stated time) and what follows:
// as_stated, short, over or unknown.
type TreatmentResult struct {
	Ratio   *float64 `json:"ratio"`
	Verdict string   `json:"verdict"`
}

// Treatment holds a wash or cure against its stated time: under three quarters
// of it is short, over five quarters is over.
func Treatment(in TreatmentInput) (TreatmentResult, error) {
	var c quantity.Checks
	c.NotBelow("took_s", in.TookS)
	c.AboveIf("stated_s", in.StatedS)
	if c.Err() != nil {
		return TreatmentResult{}, c.Err()
	}
	if in.StatedS == nil {
		return TreatmentResult{Verdict: "unknown"}, nil
	}
	ratio := in.TookS / *in.StatedS
	out := TreatmentResult{Ratio: &ratio, Verdict: "as_stated"}
	switch {
	case quantity.Less(ratio, shortShare):
		out.Verdict = "short"
	case quantity.Less(longShare, ratio):
		out.Verdict = "over"
	}
	return out, nil
}
