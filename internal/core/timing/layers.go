package timing

import "ojime/internal/core/quantity"

// MaskedLayers is the time of each layer of a masked print in seconds, in
// order; with start and end they add up to what Masked gives.
func MaskedLayers(in MaskedInput) ([]float64, error) {
	res, err := Masked(in)
	if err != nil {
		return nil, err
	}
	steps := quantity.Or(in.TransitionLayers, 0)
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
	waits := res.Breakdown.WaitS / float64(res.Layers)
	out := make([]float64, res.Layers)
	for i := range out {
		n := int64(i)
		switch {
		case n < in.Bottom.Layers:
			out[i] = in.Bottom.ExposureS + bottomLift + bottomRetract + waits
		case n < in.Bottom.Layers+steps:
			share := float64(n-in.Bottom.Layers+1) / float64(steps+1)
			out[i] = in.Bottom.ExposureS + (in.ExposureS-in.Bottom.ExposureS)*share + lift + retract + waits
		default:
			out[i] = in.ExposureS + lift + retract + waits
		}
	}
	return out, nil
}
