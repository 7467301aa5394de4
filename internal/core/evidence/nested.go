package evidence

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/stat/distuv"

	"ojime/internal/core/quantity"
	"ojime/internal/core/stats"
)

// NestedSpecimen is one specimen's readings of one feature, in mm, at least one.
type NestedSpecimen struct {
	ValuesMM []float64 `json:"values_mm"`
}

// NestedPrint is one print's specimens, at least one.
type NestedPrint struct {
	Specimens []NestedSpecimen `json:"specimens"`
}

// NestedInstrument is what measured a side. ID is nil where it is not known, and then
// the same as no other.
type NestedInstrument struct {
	ID           *string `json:"id,omitempty"`
	ResolutionMM float64 `json:"resolution_mm"`
	ReferenceUMM float64 `json:"reference_u_mm"`
}

// NestedSide is one side: prints, specimens within them, readings within those.
type NestedSide struct {
	Prints     []NestedPrint    `json:"prints"`
	Instrument NestedInstrument `json:"instrument"`
}

// NestedInput is one side, or two.
type NestedInput struct {
	A NestedSide  `json:"a"`
	B *NestedSide `json:"b,omitempty"`
}

// Components are the standard deviations of prints, of specimens within a print and of
// readings of a specimen, in mm; nil where they cannot be known.
type Components struct {
	PrintSDMM    *float64 `json:"print_sd_mm"`
	SpecimenSDMM *float64 `json:"specimen_sd_mm"`
	ReadingSDMM  *float64 `json:"reading_sd_mm"`
}

// NestedSideResult is a side's mean with its standard and expanded uncertainty (k by
// the effective degrees of freedom DF, nil for no end of them). Of one print it is what
// is known of that print, so CI is nil.
type NestedSideResult struct {
	MeanMM     float64            `json:"mean_mm"`
	Prints     int64              `json:"prints"`
	Specimens  int64              `json:"specimens"`
	Readings   int64              `json:"readings"`
	UMM        float64            `json:"u_mm"`
	DF         *float64           `json:"df"`
	K          float64            `json:"k"`
	ExpandedMM float64            `json:"expanded_mm"`
	CI         *quantity.Interval `json:"ci"`
	Components Components         `json:"components"`
}

// NestedResult is one side, or two and their difference a − b in mm.
type NestedResult struct {
	A            NestedSideResult   `json:"a"`
	B            *NestedSideResult  `json:"b"`
	DifferenceMM *float64           `json:"difference_mm"`
	CI           *quantity.Interval `json:"ci"`
	P            *float64           `json:"p"`
	DF           *float64           `json:"df"`
	Verdict      *string            `json:"verdict"`
	quantity.Warnings
}

// Nested compares sizes with the print as the unit. The spread of print means carries
// what the prints differ by; the instrument adds its resolution (a rectangle) and its
// reference, which cancels where both sides were read with the same one. Degrees of
// freedom by Welch and Satterthwaite (GUM, annex G). It warns one_print and
// single_reading.
func Nested(in NestedInput) (NestedResult, error) {
	var c quantity.Checks
	in.A.check(&c, "a")
	if in.B != nil {
		in.B.check(&c, "b")
	}
	if c.Err() != nil {
		return NestedResult{}, c.Err()
	}
	out := NestedResult{Warnings: quantity.None()}
	a := in.A.spread()
	out.A = out.side(in.A, a)
	if in.B == nil {
		return out, nil
	}
	b := in.B.spread()
	out.B = quantity.Ptr(out.side(*in.B, b))
	out.difference(in, a, b)
	return out, nil
}

func (s NestedSide) check(c *quantity.Checks, side string) {
	if len(s.Prints) == 0 {
		c.Fail(side+".prints", "are empty; at least one print is needed")
	}
	for i, p := range s.Prints {
		if len(p.Specimens) == 0 {
			c.Fail(fmt.Sprintf("%s.prints[%d].specimens", side, i), "are empty; at least one specimen is needed")
		}
		for j, specimen := range p.Specimens {
			if len(specimen.ValuesMM) == 0 {
				c.Fail(fmt.Sprintf("%s.prints[%d].specimens[%d].values_mm", side, i, j), "are empty; at least one reading is needed")
			}
			for k, v := range specimen.ValuesMM {
				if math.IsNaN(v) || math.IsInf(v, 0) { // paths are written where something is wrong
					c.Number(fmt.Sprintf("%s.prints[%d].specimens[%d].values_mm[%d]", side, i, j, k), v)
				}
			}
		}
	}
	c.NotBelow(side+".instrument.resolution_mm", s.Instrument.ResolutionMM)
	c.NotBelow(side+".instrument.reference_u_mm", s.Instrument.ReferenceUMM)
}

// levels are a side's means at each level.
type levels struct {
	prints []float64
	// specimens are the means of specimens, by print; readings the values, by specimen.
	specimens, readings [][]float64
}

func (s NestedSide) levels() (l levels) {
	for _, p := range s.Prints {
		means := make([]float64, 0, len(p.Specimens))
		for _, specimen := range p.Specimens {
			l.readings = append(l.readings, specimen.ValuesMM)
			means = append(means, stats.Mean(specimen.ValuesMM))
		}
		l.specimens = append(l.specimens, means)
		l.prints = append(l.prints, stats.Mean(means))
	}
	return l
}

// spread is the standard uncertainty that a side's own scatter gives its mean, with its
// degrees of freedom, without the instrument's parts.
type spread struct{ u, df float64 }

func (s NestedSide) spread() spread {
	l := s.levels()
	for _, values := range [][]float64{l.prints, l.specimens[0], l.readings[0]} {
		if n := float64(len(values)); n >= 2 {
			floor := s.Instrument.ResolutionMM * s.Instrument.ResolutionMM / 12 // what cannot be told apart may still differ
			return spread{math.Sqrt(math.Max(stats.SampleVar(values), floor) / n), n - 1}
		}
	}
	return spread{0, math.Inf(1)}
}

// parts are the squares of an instrument's resolution and reference uncertainty.
func (i NestedInstrument) parts() (resolution, reference float64) {
	return i.ResolutionMM * i.ResolutionMM / 12, i.ReferenceUMM * i.ReferenceUMM
}

func (out *NestedResult) side(s NestedSide, own spread) NestedSideResult {
	l := s.levels()
	r := NestedSideResult{MeanMM: stats.Mean(l.prints), Prints: int64(len(l.prints)), Specimens: int64(len(l.readings)), Components: l.components(), K: stats.Z}
	for _, values := range l.readings {
		r.Readings += int64(len(values))
	}
	resolution, reference := s.Instrument.parts()
	r.UMM = math.Sqrt(own.u*own.u + resolution + reference)
	if own.u > 0 {
		r.DF = quantity.Ptr(own.df * math.Pow(r.UMM/own.u, 4))
		r.K = stats.T(*r.DF)
	}
	r.ExpandedMM = r.K * r.UMM
	if r.Prints > 1 {
		r.CI = &quantity.Interval{r.MeanMM - r.ExpandedMM, r.MeanMM + r.ExpandedMM}
	} else {
		out.Warn("one_print", "One print tells of that print alone, not of the set-up; print it again.")
	}
	if r.Readings == 1 {
		out.Warn("single_reading", "It was read once, so the spread of readings is not known; read it again.")
	}
	return r
}

func (out *NestedResult) difference(in NestedInput, a, b spread) {
	d := out.A.MeanMM - out.B.MeanMM
	out.DifferenceMM, out.Verdict = &d, quantity.Ptr(NotShown)
	if out.A.Prints < 2 || out.B.Prints < 2 {
		return
	}
	resolutionA, referenceA := in.A.Instrument.parts()
	resolutionB, referenceB := in.B.Instrument.parts()
	square := a.u*a.u + b.u*b.u + resolutionA + resolutionB
	if !same(in.A.Instrument, in.B.Instrument) {
		square += referenceA + referenceB
	}
	u := math.Sqrt(square)
	df := a.df + b.df
	if parts := math.Pow(a.u, 4)/a.df + math.Pow(b.u, 4)/b.df; parts > 0 {
		df = math.Min(df, square*square/parts)
	}
	half := stats.T(df) * u
	out.DF, out.CI = &df, &quantity.Interval{d - half, d + half}
	if u > 0 {
		p := 2 * distuv.StudentsT{Mu: 0, Sigma: 1, Nu: df}.Survival(math.Abs(d)/u)
		out.P, out.Verdict = &p, quantity.Ptr(VerdictOf(p))
	}
}

// same reports one instrument; one that is not known is the same as no other.
func same(a, b NestedInstrument) bool { return a.ID != nil && b.ID != nil && *a.ID == *b.ID }

func (l levels) components() (c Components) {
	reading := pooled(l.readings)
	if reading != nil {
		c.ReadingSDMM = quantity.Ptr(math.Sqrt(*reading))
	}
	specimen := pooled(l.specimens)
	if specimen == nil {
		return c
	}
	if reading != nil {
		c.SpecimenSDMM = quantity.Ptr(math.Sqrt(math.Max(0, *specimen-*reading/harmonic(l.readings))))
	}
	if len(l.prints) > 1 {
		c.PrintSDMM = quantity.Ptr(math.Sqrt(math.Max(0, stats.SampleVar(l.prints)-*specimen/harmonic(l.specimens))))
	}
	return c
}

// pooled is the variance within groups, Σ(n − 1)·s²/Σ(n − 1); nil where no group has
// two.
func pooled(groups [][]float64) *float64 {
	var sum, df float64
	for _, g := range groups {
		if n := float64(len(g)); n >= 2 {
			sum, df = sum+(n-1)*stats.SampleVar(g), df+n-1
		}
	}
	if df == 0 {
		return nil
	}
	return quantity.Ptr(sum / df)
}

// harmonic is the harmonic mean of the groups' counts.
func harmonic(groups [][]float64) float64 {
	var sum float64
	for _, g := range groups {
		sum += 1 / float64(len(g))
	}
	return float64(len(groups)) / sum
}
