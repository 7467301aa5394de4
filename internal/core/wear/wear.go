// Package wear is one rule for everything that wears: panels, projectors,
// lasers, films and whole machines.
package wear

import (
	"math"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// LightInput is one typical print (seconds of light, seconds in all, layers)
// against a life in Unit: light_h, layers or run_h. Used is in that unit.
type LightInput struct {
	LightOnS     float64  `json:"light_on_s"`
	TotalS       float64  `json:"total_s"`
	Layers       int64    `json:"layers"`
	Life         float64  `json:"life"`
	Unit         string   `json:"unit"`
	Used         *float64 `json:"used,omitempty"`
	HoursPerWeek *float64 `json:"hours_per_week,omitempty"`
	Price        *float64 `json:"price,omitempty"`
}

// LightResult says what a print uses and what is left, in prints, hours run,
// hours lit, years and money.
type LightResult struct {
	LightDuty    float64  `json:"light_duty"`
	UsePerPrint  float64  `json:"use_per_print"`
	UsedShare    float64  `json:"used_share"`
	PrintsLeft   int64    `json:"prints_left"`
	RunHLeft     float64  `json:"run_h_left"`
	LightHLeft   float64  `json:"light_h_left"`
	YearsLeft    *float64 `json:"years_left"`
	CostPerPrint *float64 `json:"cost_per_print"`
	quantity.Warnings
}

// weeksPerYear is 365.2425 days over 7.
const weeksPerYear = 52.1775

// Light applies the rule. It warns worn_out when used has reached the life.
func Light(in LightInput) (LightResult, error) {
	used := quantity.Or(in.Used, 0)
	var c quantity.Checks
	c.Above("light_on_s", in.LightOnS)
	c.Above("total_s", in.TotalS)
	if in.LightOnS > in.TotalS {
		c.Fail("light_on_s", "is %s s of a print of %s s; it cannot be longer", say.Figures(in.LightOnS, 6), say.Figures(in.TotalS, 6))
	}
	c.CountAbove("layers", in.Layers)
	c.Above("life", in.Life)
	c.OneOf("unit", in.Unit, "light_h", "layers", "run_h")
	c.NotBelow("used", used)
	c.AboveIf("hours_per_week", in.HoursPerWeek)
	c.NotBelowIf("price", in.Price)
	if c.Err() != nil {
		return LightResult{}, c.Err()
	}
	use := map[string]float64{"light_h": in.LightOnS / 3600, "layers": float64(in.Layers), "run_h": in.TotalS / 3600}[in.Unit]
	left := math.Max(0, in.Life-used)
	out := LightResult{
		LightDuty: in.LightOnS / in.TotalS, UsePerPrint: use, UsedShare: used / in.Life,
		PrintsLeft: int64(quantity.Floor(left / use)), RunHLeft: left / use * in.TotalS / 3600,
		Warnings: quantity.None(),
	}
	out.LightHLeft = out.RunHLeft * out.LightDuty
	if in.HoursPerWeek != nil {
		out.YearsLeft = quantity.Ptr(out.RunHLeft / *in.HoursPerWeek / weeksPerYear)
	}
	if in.Price != nil {
		out.CostPerPrint = quantity.Ptr(*in.Price * use / in.Life)
	}
	if quantity.AtMost(in.Life, used) {
		out.Warn("worn_out", "Its stated life of %s is used up (%s); replace it or watch for failures.", say.Figures(in.Life, 6), say.Figures(used, 6))
	}
	return out, nil
}
