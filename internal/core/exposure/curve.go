// Package exposure finds exposure settings: the working curve of a resin,
// the choice from a series of coupons by three schools, what to test next,
// and what carries from one machine to another.
package exposure

import (
	"fmt"
	"math"

	"ojime/internal/core/quantity"
	"ojime/internal/core/stats"
	"ojime/internal/say"
)

// CurvePoint is one cured film: its dose (unit in CurveInput.DoseUnit) and its
// thickness in micrometres, both > 0. What did not cure is no point.
type CurvePoint struct {
	Dose        float64 `json:"dose"`
	ThicknessUM float64 `json:"thickness_um"`
}

// CurveInput needs at least three distinct doses. DoseUnit is mj_cm2 or s.
type CurveInput struct {
	Points          []CurvePoint `json:"points"`
	DoseUnit        string       `json:"dose_unit"`
	IrradianceMWCM2 *float64     `json:"irradiance_mw_cm2,omitempty"`
	LayerUM         *float64     `json:"layer_um,omitempty"`
	OvercureUM      *float64     `json:"overcure_um,omitempty"`
}

// CurveResult gives penetration depth Dp (µm) and critical dose Ec (the dose's
// unit) with their intervals, and the dose and time for a layer where asked.
type CurveResult struct {
	DpUM     float64            `json:"dp_um"`
	DpCI     quantity.Interval  `json:"dp_ci"`
	Ec       *float64           `json:"ec"`
	EcCI     *quantity.Interval `json:"ec_ci"`
	R2       float64            `json:"r2"`
	DoseFor  *float64           `json:"dose_for"`
	TimeForS *float64           `json:"time_for_s"`
	quantity.Warnings
}

// WorkingCurve fits C = Dp·ln(E/Ec) (Jacobs 1992) by least squares of
// thickness on ln dose. Ec's interval is Fieller's (1954) on −a/b. It warns
// narrow_range, extrapolated, no_irradiance and unbounded; a curve that does
// not rise with dose is an error of points.
func WorkingCurve(in CurveInput) (CurveResult, error) {
	if err := checkCurve(in); err != nil {
		return CurveResult{}, err
	}
	x, y := make([]float64, len(in.Points)), make([]float64, len(in.Points))
	low, high := math.Inf(1), 0.0
	for i, p := range in.Points {
		x[i], y[i] = math.Log(p.Dose), p.ThicknessUM
		low, high = math.Min(low, p.Dose), math.Max(high, p.Dose)
	}
	line := stats.Fit(x, y)
	if line.B <= 0 {
		return CurveResult{}, quantity.Errorf("points", "thickness does not rise with dose; check the readings and their order")
	}
	t := stats.T(line.DF)
	half := t * math.Sqrt(line.VarB)
	out := CurveResult{
		DpUM: line.B, DpCI: quantity.Interval{line.B - half, line.B + half},
		R2: 1 - line.SSE/line.SumYY, Ec: quantity.Exp(-line.A / line.B), Warnings: quantity.None(),
	}
	if quantity.Less(high/low, 2) {
		out.Warn("narrow_range", "The largest dose is only %s times the smallest; a range of two or more fixes the slope better.", say.Figure(high/low))
	}
	out.EcCI = fieller(line, t)
	if out.Ec == nil || out.EcCI == nil {
		out.Warn("unbounded", "These readings do not bound the critical dose; measure more doses over a wider range.")
	}
	if in.LayerUM != nil {
		out.ask(in, low, high)
	}
	return out, nil
}

func (out *CurveResult) ask(in CurveInput, low, high float64) {
	growth := quantity.Exp((*in.LayerUM + quantity.Or(in.OvercureUM, 0)) / out.DpUM)
	if out.Ec == nil || growth == nil || math.IsInf(*out.Ec**growth, 0) {
		out.Warn("unbounded", "The dose for this layer leaves what can be computed; measure more doses over a wider range.")
		return
	}
	dose := *out.Ec * *growth
	out.DoseFor = &dose
	if quantity.Less(dose, low) || quantity.Less(high, dose) {
		out.Warn("extrapolated", "The dose for this layer, %s, lies outside the doses measured (%s to %s); test one near it.", say.Figures(dose, 4), say.Figures(low, 4), say.Figures(high, 4))
	}
	switch {
	case in.DoseUnit == "s":
		out.TimeForS = quantity.Ptr(dose)
	case in.IrradianceMWCM2 != nil:
		out.TimeForS = quantity.Ptr(dose / *in.IrradianceMWCM2)
	default:
		out.Warn("no_irradiance", "Without the irradiance this dose cannot be turned into seconds; measure it at the film.")
	}
}

func checkCurve(in CurveInput) error {
	var c quantity.Checks
	doses := make([]float64, len(in.Points))
	for i, p := range in.Points {
		c.Above(fmt.Sprintf("points[%d].dose", i), p.Dose)
		c.Above(fmt.Sprintf("points[%d].thickness_um", i), p.ThicknessUM)
		doses[i] = p.Dose
	}
	if stats.Distinct(doses) < 3 {
		c.Fail("points", "have %d distinct doses; at least 3 are needed", stats.Distinct(doses))
	}
	c.OneOf("dose_unit", in.DoseUnit, "mj_cm2", "s")
	c.AboveIf("irradiance_mw_cm2", in.IrradianceMWCM2)
	c.AboveIf("layer_um", in.LayerUM)
	c.NotBelowIf("overcure_um", in.OvercureUM)
	return c.Err()
}

// fieller is the interval of exp(−a/b): where the line crosses zero, solved
// about the mean of x, where intercept and slope are uncorrelated. nil when
// the slope is not told from 0 or an end leaves the range of exp.
func fieller(l stats.Line, t float64) *quantity.Interval {
	tt := t * t
	if quantity.AtMost(1, tt*l.VarB/(l.B*l.B)) {
		return nil
	}
	a := l.B*l.B - tt*l.VarB
	b := l.MeanY * l.B
	c := l.MeanY*l.MeanY - tt*l.S2/float64(l.N)
	root := math.Sqrt(math.Max(0, b*b-a*c))
	return quantity.ExpInterval(l.MeanX+(-b-root)/a, l.MeanX+(-b+root)/a)
}
