// Package metrology turns caliper readings into errors with their uncertainty,
// tells an offset (light) from a scale (shrinkage, pitch), and grades by ISO.
package metrology

import (
	"fmt"
	"math"

	"ojime/internal/core/quantity"
	"ojime/internal/core/stats"
)

// FeatureReadings is one feature: Axis x, y or z; Kind outer or inner; at
// least one reading in millimetres.
type FeatureReadings struct {
	Feature   string    `json:"feature"`
	Axis      string    `json:"axis"`
	Kind      string    `json:"kind"`
	NominalMM float64   `json:"nominal_mm"`
	ValuesMM  []float64 `json:"values_mm"`
}

// Instrument is what measured: resolution and the standard uncertainty of its
// reference, in millimetres, both >= 0.
type Instrument struct {
	ResolutionMM float64 `json:"resolution_mm"`
	ReferenceUMM float64 `json:"reference_u_mm"`
}

// SummaryInput is all features of a part, measured with one instrument.
type SummaryInput struct {
	Readings   []FeatureReadings `json:"readings"`
	Instrument Instrument        `json:"instrument"`
}

// FeatureResult is one feature's mean and error in millimetres and per cent,
// with standard and expanded (k = 2) uncertainty. SDMM is nil for n = 1,
// ITGrade nil beyond IT18 or 250 mm.
type FeatureResult struct {
	Feature    string   `json:"feature"`
	Axis       string   `json:"axis"`
	Kind       string   `json:"kind"`
	NominalMM  float64  `json:"nominal_mm"`
	N          int      `json:"n"`
	MeanMM     float64  `json:"mean_mm"`
	SDMM       *float64 `json:"sd_mm"`
	ErrorMM    float64  `json:"error_mm"`
	ErrorPct   float64  `json:"error_pct"`
	UMM        float64  `json:"u_mm"`
	ExpandedMM float64  `json:"expanded_mm"`
	ITGrade    *int     `json:"it_grade"`
}

// Overall summarises the features' errors, in millimetres and per cent.
type Overall struct {
	MeanErrorMM float64 `json:"mean_error_mm"`
	MeanAbsMM   float64 `json:"mean_abs_mm"`
	RMSMM       float64 `json:"rms_mm"`
	MaxAbsMM    float64 `json:"max_abs_mm"`
	MeanAbsPct  float64 `json:"mean_abs_pct"`
}

// AxisFit is error = offset + slope·nominal of one axis and kind. An offset is
// bloom, a scale is shrinkage or pitch. Standard errors are nil for n = 2.
type AxisFit struct {
	Axis       string   `json:"axis"`
	Kind       string   `json:"kind"`
	N          int      `json:"n"`
	OffsetMM   float64  `json:"offset_mm"`
	ScalePct   float64  `json:"scale_pct"`
	OffsetSEMM *float64 `json:"offset_se_mm"`
	ScaleSEPct *float64 `json:"scale_se_pct"`
}

// PerAxis is one value an axis, nil where there is none.
type PerAxis struct {
	X *float64 `json:"x"`
	Y *float64 `json:"y"`
	Z *float64 `json:"z"`
}

// Compensation is what to set so that dimensions come right: scale in per cent
// per axis, and what to add to every outline in millimetres.
type Compensation struct {
	ScaleToPct PerAxis  `json:"scale_to_pct"`
	BoundaryMM *float64 `json:"boundary_mm"`
}

// SummaryResult is the whole part; its grade is the coarsest of its features.
type SummaryResult struct {
	Features     []FeatureResult `json:"features"`
	Overall      Overall         `json:"overall"`
	Fits         []AxisFit       `json:"fits"`
	Compensation Compensation    `json:"compensation"`
	ITGrade      *int            `json:"it_grade"`
	quantity.Warnings
}

// smallNominalMM is the size below which percentages inflate.
const smallNominalMM = 2

// Summary follows the GUM: u = √(sd²/n + resolution²/12 + reference²), where a
// single reading borrows the pooled sd of the repeated ones. It warns
// single_reading, percent_inflates, scale_absurd and no_it_grade.
func Summary(in SummaryInput) (SummaryResult, error) {
	if err := checkSummary(in); err != nil {
		return SummaryResult{}, err
	}
	out := SummaryResult{Fits: []AxisFit{}, Warnings: quantity.None()}
	pooled := pooledVariance(in.Readings)
	for _, r := range in.Readings {
		out.Features = append(out.Features, out.feature(r, in.Instrument, pooled))
	}
	out.Overall = overall(out.Features)
	out.fit()
	out.compensate()
	out.grade()
	return out, nil
}

func checkSummary(in SummaryInput) error {
	var c quantity.Checks
	if len(in.Readings) == 0 {
		c.Fail("readings", "are empty; at least one feature is needed")
	}
	for i, r := range in.Readings {
		at := fmt.Sprintf("readings[%d].", i)
		c.OneOf(at+"axis", r.Axis, "x", "y", "z")
		c.OneOf(at+"kind", r.Kind, "outer", "inner")
		c.Above(at+"nominal_mm", r.NominalMM)
		if len(r.ValuesMM) == 0 {
			c.Fail(at+"values_mm", "are empty; at least one reading is needed")
		}
		for j, v := range r.ValuesMM {
			c.Above(fmt.Sprintf("%svalues_mm[%d]", at, j), v)
		}
	}
	c.NotBelow("instrument.resolution_mm", in.Instrument.ResolutionMM)
	c.NotBelow("instrument.reference_u_mm", in.Instrument.ReferenceUMM)
	return c.Err()
}

// pooledVariance is Σ(n−1)sd²/Σ(n−1) over features read at least twice, or nil.
func pooledVariance(readings []FeatureReadings) *float64 {
	var sum, df float64
	for _, r := range readings {
		if n := len(r.ValuesMM); n >= 2 {
			sum += float64(n-1) * stats.SampleVar(r.ValuesMM)
			df += float64(n - 1)
		}
	}
	if df == 0 {
		return nil
	}
	return quantity.Ptr(sum / df)
}

func (out *SummaryResult) feature(r FeatureReadings, tool Instrument, pooled *float64) FeatureResult {
	n := len(r.ValuesMM)
	f := FeatureResult{Feature: r.Feature, Axis: r.Axis, Kind: r.Kind, NominalMM: r.NominalMM, N: n, MeanMM: stats.Mean(r.ValuesMM)}
	var variance float64
	switch {
	case n >= 2:
		variance = stats.SampleVar(r.ValuesMM)
		f.SDMM = quantity.Ptr(math.Sqrt(variance))
	case pooled != nil:
		variance = *pooled
	default:
		out.Warn("single_reading", "Every feature was read once, so the spread of readings is not known; read at least one of them again.")
	}
	f.ErrorMM = f.MeanMM - f.NominalMM
	f.ErrorPct = 100 * f.ErrorMM / f.NominalMM
	f.UMM = math.Sqrt(variance/float64(n) + tool.ResolutionMM*tool.ResolutionMM/12 + tool.ReferenceUMM*tool.ReferenceUMM)
	f.ExpandedMM = 2 * f.UMM
	f.ITGrade = itGrade(f.NominalMM, f.ErrorMM)
	if f.NominalMM < smallNominalMM {
		out.Warn("percent_inflates", "Percentages inflate small features: some nominals are below %d mm. Read the micrometres beside them.", smallNominalMM)
	}
	return f
}

func overall(features []FeatureResult) Overall {
	var o Overall
	n := float64(len(features))
	for _, f := range features {
		o.MeanErrorMM += f.ErrorMM / n
		o.MeanAbsMM += math.Abs(f.ErrorMM) / n
		o.RMSMM += f.ErrorMM * f.ErrorMM / n
		o.MaxAbsMM = math.Max(o.MaxAbsMM, math.Abs(f.ErrorMM))
		o.MeanAbsPct += math.Abs(f.ErrorPct) / n
	}
	o.RMSMM = math.Sqrt(o.RMSMM)
	return o
}

func (out *SummaryResult) fit() {
	for _, axis := range []string{"x", "y", "z"} {
		for _, kind := range []string{"outer", "inner"} {
			var nominal, errors []float64
			for _, f := range out.Features {
				if f.Axis == axis && f.Kind == kind {
					nominal, errors = append(nominal, f.NominalMM), append(errors, f.ErrorMM)
				}
			}
			if stats.Distinct(nominal) < 2 {
				continue
			}
			line := stats.Fit(nominal, errors)
			fit := AxisFit{Axis: axis, Kind: kind, N: line.N, OffsetMM: line.A, ScalePct: 100 * line.B}
			if line.DF > 0 {
				fit.OffsetSEMM = quantity.Ptr(math.Sqrt(line.VarA))
				fit.ScaleSEPct = quantity.Ptr(100 * math.Sqrt(line.VarB))
			}
			out.Fits = append(out.Fits, fit)
		}
	}
}

func (out *SummaryResult) compensate() {
	scale := map[string]**float64{
		"x": &out.Compensation.ScaleToPct.X, "y": &out.Compensation.ScaleToPct.Y, "z": &out.Compensation.ScaleToPct.Z,
	}
	var offsets []float64
	for _, f := range out.Fits {
		if f.Kind == "outer" {
			if size := 1 + f.ScalePct/100; size > 0 {
				*scale[f.Axis] = quantity.Ptr(100 / size)
			} else {
				out.Warn("scale_absurd", "The outer sizes along %s shrink to nothing as they grow; check these readings.", f.Axis)
			}
		}
		if f.Axis == "z" {
			continue
		}
		if f.Kind == "outer" {
			offsets = append(offsets, -f.OffsetMM/2)
		} else {
			offsets = append(offsets, f.OffsetMM/2)
		}
	}
	if offsets != nil {
		out.Compensation.BoundaryMM = quantity.Ptr(stats.Mean(offsets))
	}
}

func (out *SummaryResult) grade() {
	coarsest := 0
	for _, f := range out.Features {
		if f.ITGrade == nil {
			out.ITGrade = nil
			out.Warn("no_it_grade", "%s lies beyond IT18 or over 250 mm, so the part has no ISO grade; check its readings.", f.Feature)
			return
		}
		coarsest = max(coarsest, *f.ITGrade)
	}
	out.ITGrade = &coarsest
}
