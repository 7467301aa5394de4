package timing

import (
	"errors"

	"ojime/internal/core/quantity"
)

// ExplainInput is two masked prints whose difference in time is to be explained.
type ExplainInput struct {
	A MaskedInput `json:"a"`
	B MaskedInput `json:"b"`
}

// SettingEffect is what a would gain (negative) or lose by one setting of b, in s.
type SettingEffect struct {
	Setting string  `json:"setting"`
	EffectS float64 `json:"effect_s"`
}

// ExplainResult is the difference a − b in s, by phase of a layer, and what each
// setting of b would do to a.
type ExplainResult struct {
	DifferenceS float64         `json:"difference_s"`
	Phases      MaskedBreakdown `json:"phases"`
	Settings    []SettingEffect `json:"settings"`
	quantity.Warnings
}

// borrowed are the settings in their order, each taking its part of b into a. Where
// only one side peels in a fixed time, the release takes the moves along.
var borrowed = []struct {
	setting string
	take    func(a *MaskedInput, b MaskedInput)
}{
	{"height", func(a *MaskedInput, b MaskedInput) { a.HeightMM = b.HeightMM }},
	{"layer", func(a *MaskedInput, b MaskedInput) { a.LayerUM = b.LayerUM }},
	{"exposure", func(a *MaskedInput, b MaskedInput) { a.ExposureS = b.ExposureS }},
	{"bottom", func(a *MaskedInput, b MaskedInput) { a.Bottom = b.Bottom }},
	{"transition", func(a *MaskedInput, b MaskedInput) { a.TransitionLayers = b.TransitionLayers }},
	{"lift", func(a *MaskedInput, b MaskedInput) {
		if alike(*a, b) {
			a.Lift, a.BottomLift = b.Lift, b.BottomLift
		}
	}},
	{"retract", func(a *MaskedInput, b MaskedInput) {
		if alike(*a, b) {
			a.Retract, a.BottomRetract = b.Retract, b.BottomRetract
		}
	}},
	{"wait", func(a *MaskedInput, b MaskedInput) { a.Wait = b.Wait }},
	{"release", func(a *MaskedInput, b MaskedInput) {
		if !alike(*a, b) {
			a.Lift, a.Retract, a.BottomLift, a.BottomRetract = b.Lift, b.Retract, b.BottomLift, b.BottomRetract
		}
		a.ReleaseS = b.ReleaseS
	}},
	{"start_end", func(a *MaskedInput, b MaskedInput) { a.StartS, a.EndS = b.StartS, b.EndS }},
}

// alike reports that both peel by moves, or both in a fixed time.
func alike(a, b MaskedInput) bool { return (a.ReleaseS == nil) == (b.ReleaseS == nil) }

// Explain takes the difference of two masked prints apart: by phase, and by what each
// setting of b alone would do to a. The effects need not add up to the difference,
// since settings work together.
func Explain(in ExplainInput) (ExplainResult, error) {
	a, err := Masked(in.A)
	if err != nil {
		return ExplainResult{}, within("a.", err)
	}
	b, err := Masked(in.B)
	if err != nil {
		return ExplainResult{}, within("b.", err)
	}
	x, y := a.Breakdown, b.Breakdown
	out := ExplainResult{DifferenceS: a.TotalS - b.TotalS, Warnings: quantity.None(),
		Phases: MaskedBreakdown{x.ExposureS - y.ExposureS, x.LiftS - y.LiftS, x.RetractS - y.RetractS, x.WaitS - y.WaitS, x.OverheadS - y.OverheadS}}
	for _, s := range borrowed {
		changed := in.A
		s.take(&changed, in.B)
		with, err := Masked(changed)
		if err != nil {
			return ExplainResult{}, within("b.", err)
		}
		out.Settings = append(out.Settings, SettingEffect{s.setting, with.TotalS - a.TotalS})
	}
	return out, nil
}

// within puts the name of a side before the field of an error.
func within(side string, err error) error {
	var field *quantity.FieldError
	if errors.As(err, &field) {
		return quantity.Errorf(side+field.Path, "%s", field.Message)
	}
	return err
}
