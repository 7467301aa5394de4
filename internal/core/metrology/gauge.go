package metrology

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/stat/distuv"

	"ojime/internal/core/quantity"
	"ojime/internal/core/stats"
)

// GaugeInput is readings in mm, > 0, by part, operator and repeat; balanced, at least two
// parts, one operator and two repeats.
type GaugeInput struct {
	Values [][][]float64 `json:"values"`
}

// GaugeResult is where the spread of a study comes from, standard deviations in mm.
// ReproducibilitySDMM (operators, and how they see parts each in their own way) is nil for
// one operator; Distinct is how many kinds of part the gauge can tell apart, nil where it
// never varies. SmallestVisibleMM is the least difference of two readings that is not the
// gauge's own.
type GaugeResult struct {
	RepeatabilitySDMM   float64  `json:"repeatability_sd_mm"`
	ReproducibilitySDMM *float64 `json:"reproducibility_sd_mm"`
	PartSDMM            float64  `json:"part_sd_mm"`
	GaugeSDMM           float64  `json:"gauge_sd_mm"`
	TotalSDMM           float64  `json:"total_sd_mm"`
	GaugeSharePct       *float64 `json:"gauge_share_pct"`
	Distinct            *int64   `json:"distinct"`
	SmallestVisibleMM   float64  `json:"smallest_visible_mm"`
	InteractionP        *float64 `json:"interaction_p"`
	quantity.Warnings
}

const (
	// poolAbove is the p of the interaction above which it is pooled with the error
	// (AIAG, Measurement Systems Analysis, 4th ed.).
	poolAbove = 0.25
	// distinctFactor is √2 as the field rounds it (ditto).
	distinctFactor = 1.41
)

// Gauge is the analysis of variance of a repeatability study, parts crossed with operators
// and both random (one operator: one-way).
func Gauge(in GaugeInput) (GaugeResult, error) {
	if err := checkGauge(in.Values); err != nil {
		return GaugeResult{}, err
	}
	a := analyse(in.Values)
	out := GaugeResult{Warnings: quantity.None()}
	perPart, perOperator := float64(a.operators*a.repeats), float64(a.parts*a.repeats)
	repeat, interaction, operator, against := a.err.ms(), 0.0, 0.0, a.err.ms()
	if a.operators > 1 {
		p, known := a.interactionP()
		if known {
			out.InteractionP = &p
		}
		if !known || p > poolAbove {
			repeat = source{a.err.ss + a.interaction.ss, a.err.df + a.interaction.df}.ms()
			against = repeat
		} else {
			against = a.interaction.ms()
			interaction = math.Max(0, (against-repeat)/float64(a.repeats))
		}
		operator = math.Max(0, (a.operator.ms()-against)/perOperator)
		out.ReproducibilitySDMM = quantity.Ptr(math.Sqrt(operator + interaction))
	}
	part := math.Max(0, (a.part.ms()-against)/perPart)
	gauge := repeat + operator + interaction
	out.RepeatabilitySDMM, out.PartSDMM, out.GaugeSDMM, out.TotalSDMM = math.Sqrt(repeat), math.Sqrt(part), math.Sqrt(gauge), math.Sqrt(gauge+part)
	out.SmallestVisibleMM = stats.Z * math.Sqrt2 * out.RepeatabilitySDMM
	if out.TotalSDMM > 0 {
		out.GaugeSharePct = quantity.Ptr(100 * out.GaugeSDMM / out.TotalSDMM)
	}
	if out.GaugeSDMM > 0 {
		out.Distinct = quantity.Ptr(int64(distinctFactor * out.PartSDMM / out.GaugeSDMM))
	}
	return out, nil
}

func checkGauge(values [][][]float64) error {
	var c quantity.Checks
	if len(values) < 2 {
		c.Fail("values", "are of %d parts; at least two are needed", len(values))
		return c.Err()
	}
	operators, repeats := len(values[0]), 0
	if operators == 0 {
		c.Fail("values[0]", "is empty; at least one operator is needed")
		return c.Err()
	}
	repeats = len(values[0][0])
	if repeats < 2 {
		c.Fail("values[0][0]", "holds %d readings; at least two are needed", repeats)
	}
	for i, part := range values {
		if len(part) != operators {
			c.Fail(fmt.Sprintf("values[%d]", i), "was read by %d operators, the first part by %d; a study is balanced", len(part), operators)
		}
		for j, cell := range part {
			if len(cell) != repeats {
				c.Fail(fmt.Sprintf("values[%d][%d]", i, j), "holds %d readings, the first %d; a study is balanced", len(cell), repeats)
			}
			for k, v := range cell {
				c.Above(fmt.Sprintf("values[%d][%d][%d]", i, j, k), v)
			}
		}
	}
	return c.Err()
}

// source is a sum of squares with its degrees of freedom.
type source struct{ ss, df float64 }

func (s source) ms() float64 { return s.ss / s.df }

type analysis struct {
	parts, operators, repeats        int
	part, operator, interaction, err source
}

func analyse(values [][][]float64) analysis {
	a := analysis{parts: len(values), operators: len(values[0]), repeats: len(values[0][0])}
	p, o, r := float64(a.parts), float64(a.operators), float64(a.repeats)
	cells, byPart, byOperator := make([][]float64, a.parts), make([]float64, a.parts), make([]float64, a.operators)
	all, largest := 0.0, 0.0
	for i, part := range values {
		cells[i] = make([]float64, a.operators)
		for j, cell := range part {
			m := stats.Mean(cell)
			cells[i][j], byPart[i], byOperator[j], all = m, byPart[i]+m/o, byOperator[j]+m/p, all+m/(o*p)
			for _, v := range cell {
				a.err.ss += (v - m) * (v - m)
				largest = math.Max(largest, v)
			}
		}
	}
	for i := range cells {
		a.part.ss += o * r * (byPart[i] - all) * (byPart[i] - all)
		for j, m := range cells[i] {
			apart := m - byPart[i] - byOperator[j] + all
			a.interaction.ss += r * apart * apart
		}
	}
	for _, m := range byOperator {
		a.operator.ss += p * r * (m - all) * (m - all)
	}
	a.part.df, a.operator.df, a.interaction.df, a.err.df = p-1, o-1, (p-1)*(o-1), p*o*(r-1)
	// What rounding leaves of readings that do not vary is no variance.
	for _, s := range []*source{&a.part, &a.operator, &a.interaction, &a.err} {
		if s.ss <= p*o*r*math.Pow(largest*1e-12, 2) {
			s.ss = 0
		}
	}
	return a
}

// interactionP is of the F test of the interaction against the error; unknown for 0/0.
func (a analysis) interactionP() (p float64, known bool) {
	switch {
	case a.interaction.ss == 0 && a.err.ss == 0:
		return 0, false
	case a.err.ss == 0:
		return 0, true
	}
	return distuv.F{D1: a.interaction.df, D2: a.err.df}.Survival(a.interaction.ms() / a.err.ms()), true
}
