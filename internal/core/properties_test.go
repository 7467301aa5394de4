package core_test

import (
	"encoding/json"
	"errors"
	"math"
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"testing"

	"ojime/internal/core/audit"
	"ojime/internal/core/cost"
	"ojime/internal/core/detail"
	"ojime/internal/core/evidence"
	"ojime/internal/core/exposure"
	"ojime/internal/core/metrology"
	"ojime/internal/core/optics"
	"ojime/internal/core/quantity"
	"ojime/internal/core/resin"
	"ojime/internal/core/timing"
)

func ok[T any](v T, err error) func(*testing.T) T {
	return func(t *testing.T) T {
		t.Helper()
		if err != nil {
			t.Fatal(err)
		}
		return v
	}
}

func near(a, b float64) bool {
	return math.Abs(a-b) <= 1e-9*math.Max(1, math.Max(math.Abs(a), math.Abs(b)))
}

// seriesOf is a clean series: pins fall and gaps rise by powers of exposure and
// meet at 2 s.
func seriesOf(exposures ...float64) exposure.SeriesInput {
	var in exposure.SeriesInput
	for _, e := range exposures {
		over := math.Log(e / 2)
		in.Readings = append(in.Readings, exposure.Reading{ExposureS: e, Survived: quantity.Ptr(e > 1.5),
			SmallestPinMM: quantity.Ptr(0.3 - 0.2*over), SmallestGapMM: quantity.Ptr(0.3 + 0.2*over),
			OuterErrorMM: quantity.Ptr(0.1 * over), InnerErrorMM: quantity.Ptr(-0.1 * over)})
	}
	return in
}

func TestSeriesFindsWhatItWasMadeFrom(t *testing.T) {
	in := seriesOf(1.4, 1.6, 1.8, 2.0, 2.2, 2.4, 2.8)
	before := slices.Clone(in.Readings)
	for _, school := range []string{exposure.Detail, exposure.Fit} {
		in.School = &school
		got := ok(exposure.Series(in))(t)
		// Lines without any spread have an interval without width, which is not believed.
		if got.Recommended == nil || !near(got.Recommended.DialS, 2.0) || got.Next.Action != "narrow" || !near(*got.Next.FromS+2**got.Next.StepS, 2.0) {
			t.Errorf("%s: recommended %+v, next %+v, want 2.0 s, and to narrow around it", school, got.Recommended, got.Next)
		}
	}
	if !slices.Equal(in.Readings, before) {
		t.Error("the readings were changed")
	}
	shuffled := seriesOf(2.4, 1.4, 2.8, 2.0, 1.6, 2.2, 1.8)
	a, b := ok(exposure.Series(seriesOf(1.4, 1.6, 1.8, 2.0, 2.2, 2.4, 2.8)))(t), ok(exposure.Series(shuffled))(t)
	if !near(*a.Detail.ExposureS, *b.Detail.ExposureS) || *a.Survival.LowestS != *b.Survival.LowestS {
		t.Errorf("the order of cells matters: %v and %v", *a.Detail.ExposureS, *b.Detail.ExposureS)
	}
}

func TestNextIsAlwaysFiveCellsThatCanBeDialled(t *testing.T) {
	for name, in := range map[string]exposure.SeriesInput{
		"one cell": seriesOf(2), "two cells": seriesOf(1.6, 2.4), "far too low": seriesOf(0.6, 0.7, 0.8),
		"not judged": {Readings: []exposure.Reading{{ExposureS: 1}, {ExposureS: 2}, {ExposureS: 3}}},
		"all lost":   {Readings: []exposure.Reading{{ExposureS: 1, Survived: quantity.Ptr(false)}, {ExposureS: 2, Survived: quantity.Ptr(false)}, {ExposureS: 3, Survived: quantity.Ptr(false)}}},
	} {
		next := ok(exposure.Series(in))(t).Next
		if next.Action == "accept" {
			t.Errorf("%s: accepted", name)
			continue
		}
		steps := (*next.ToS - *next.FromS) / *next.StepS
		dials := *next.StepS / 0.1
		if !near(steps, 4) || !near(dials, math.Round(dials)) || *next.FromS < 0.1-1e-9 {
			t.Errorf("%s: %s from %v to %v by %v", name, next.Action, *next.FromS, *next.ToS, *next.StepS)
		}
	}
}

func TestMaskedTimeIsTheSumOfItsLayers(t *testing.T) {
	chance := rand.New(rand.NewPCG(1, 2))
	for range 200 {
		in := timing.MaskedInput{HeightMM: 0.1 + 20*chance.Float64(), LayerUM: 20 + 80*chance.Float64(), ExposureS: 1 + 3*chance.Float64(),
			Bottom: timing.Bottom{Layers: chance.Int64N(12), ExposureS: 20}, TransitionLayers: quantity.Ptr(chance.Int64N(9)),
			Lift: []timing.Move{{MM: 6, MMMin: 60}}, Retract: []timing.Move{{MM: 6, MMMin: 120}}, StartS: quantity.Ptr(30.0)}
		got := ok(timing.Masked(in))(t)
		n := *in.TransitionLayers
		sum := 30.0
		for layer := range got.Layers {
			light := in.ExposureS
			if i := layer - in.Bottom.Layers + 1; layer < in.Bottom.Layers {
				light = in.Bottom.ExposureS
			} else if i <= n {
				light = in.Bottom.ExposureS + (in.ExposureS-in.Bottom.ExposureS)*float64(i)/float64(n+1)
			}
			sum += light + 6 + 3
		}
		if !near(got.TotalS, sum) {
			t.Fatalf("%+v: %v s, layer by layer %v s", in, got.TotalS, sum)
		}
	}
}

func TestResinIsNeitherMadeNorLost(t *testing.T) {
	chance := rand.New(rand.NewPCG(3, 4))
	for range 200 {
		in := resin.BudgetInput{SolidML: 10 + 500*chance.Float64(), Vat: resin.Vat{FillML: 50 + 150*chance.Float64(), DeadML: 40, MaxML: 250},
			LayerCount: quantity.Ptr(1 + chance.Int64N(2000)), LayerS: quantity.Ptr(8.0)}
		got := ok(resin.Budget(in))(t)
		if in.Vat.FillML >= in.Vat.DeadML {
			if balance := in.Vat.FillML + float64(got.Refills)*(in.Vat.MaxML-in.Vat.DeadML) - got.NeededML; got.LeftML > 0 && !near(balance, got.LeftML) {
				t.Fatalf("%+v: left %v, in minus out %v", in, got.LeftML, balance)
			}
		}
		if got.RunsDry != (got.DryLayer != nil) || got.RunsDry == (got.ShortML == 0) {
			t.Fatalf("%+v: %+v contradicts itself", in, got)
		}
	}
}

func TestTwoSidesMirrorEachOther(t *testing.T) {
	for _, c := range [][4]int64{{2, 40, 9, 40}, {0, 12, 4, 9}, {5, 5, 1, 30}, {7, 20, 7, 20}} {
		a, b := evidence.Count{Events: c[0], Trials: c[1]}, evidence.Count{Events: c[2], Trials: c[3]}
		ab := ok(evidence.TwoRates(evidence.TwoRatesInput{A: a, B: b}))(t)
		ba := ok(evidence.TwoRates(evidence.TwoRatesInput{A: b, B: a}))(t)
		if !near(ab.Difference, -ba.Difference) || !near(ab.CI[0], -ba.CI[1]) || !near(ab.P, ba.P) || ab.Verdict != ba.Verdict {
			t.Errorf("%v: %+v against %+v", c, ab, ba)
		}
	}
	rank := ok(evidence.Rank(evidence.RankInput{Items: []string{"P", "Q", "R"}, Contests: []evidence.Contest{
		{A: "P", B: "Q", AWins: 5, BWins: 2}, {A: "R", B: "Q", AWins: 3, BWins: 4}, {A: "P", B: "R", AWins: 2, BWins: 3}}}))(t)
	var sum float64
	for i, s := range rank.Strength {
		sum += s
		for j := range rank.Strength {
			if !near(rank.WinProbability[i][j]+rank.WinProbability[j][i], 1) {
				t.Errorf("%d and %d do not add up to one win", i, j)
			}
		}
	}
	if math.Abs(sum) > 1e-9 {
		t.Errorf("strengths have mean %v", sum/3)
	}
}

// Six of nine is the textbook case of a winner too soon: p = 0.51.
func TestSixOfNineShowsNothing(t *testing.T) {
	got := ok(evidence.Panel(evidence.PanelInput{Kind: evidence.Preference, Picks: 6, Votes: 9}))(t)
	if math.Abs(got.P-0.5078125) > 1e-9 || got.Verdict != evidence.NotShown || *got.VotesToConvince <= 9 {
		t.Errorf("got %+v", got)
	}
}

func TestAuditIsTheSameFromEitherSide(t *testing.T) {
	a := audit.Conditions{RoomOutside: audit.One(true), RoomDrifted: audit.One(true), HumidityPct: audit.One(40.0), HeaterOn: audit.One(false), Room: audit.One("garage"), LightPct: audit.One(96.0), LayerUM: audit.One(50.0), ResinTempC: audit.Values{21.0, nil, 22.0}, Resin: audit.One("grey"), FilmClouded: audit.One(true), Machine: audit.Values{"one", "two"}, Prints: quantity.Ptr[int64](2)}
	b := audit.Conditions{LayerUM: audit.One(30.0), ResinTempC: audit.One(25.0), Supports: audit.One("set A"), Machine: audit.One("one"), Prints: quantity.Ptr[int64](5)}
	for _, question := range audit.Questions {
		ab := ok(audit.Compare(audit.CompareInput{A: a, B: b, Question: question}))(t)
		ba := ok(audit.Compare(audit.CompareInput{A: b, B: a, Question: question}))(t)
		for i := range ab.Rows {
			if ab.Rows[i].State != ba.Rows[i].State || ab.Rows[i].Weight != ba.Rows[i].Weight {
				t.Errorf("%s: %+v against %+v", question, ab.Rows[i], ba.Rows[i])
			}
		}
		if ab.Grade != ba.Grade || len(ab.Rows) != len(audit.Factors()) {
			t.Errorf("%s: grades %s and %s, %d rows", question, ab.Grade, ba.Grade, len(ab.Rows))
		}
	}
}

func TestOffsetAndScaleAreToldApart(t *testing.T) {
	in := metrology.SummaryInput{Instrument: metrology.Instrument{ResolutionMM: 0.01}}
	for _, nominal := range []float64{5, 10, 20, 40} {
		in.Readings = append(in.Readings, metrology.FeatureReadings{Feature: "f", Axis: "x", Kind: "outer", NominalMM: nominal, ValuesMM: []float64{nominal*1.002 + 0.05}})
	}
	got := ok(metrology.Summary(in))(t)
	if fit := got.Fits[0]; !near(fit.OffsetMM, 0.05) || !near(fit.ScalePct, 0.2) {
		t.Errorf("offset %v mm and scale %v %%, want 0.05 and 0.2", fit.OffsetMM, fit.ScalePct)
	}
	if got.Compensation.ScaleToPct.Y != nil || !near(*got.Compensation.BoundaryMM, -0.025) {
		t.Errorf("compensation %+v", got.Compensation)
	}
}

func TestALadderScalesWithItsSizes(t *testing.T) {
	rungs := []detail.Rung{{SizeMM: 0.1, Intact: 1, Of: 6}, {SizeMM: 0.2, Intact: 2, Of: 6}, {SizeMM: 0.3, Intact: 5, Of: 6}, {SizeMM: 0.4, Intact: 6, Of: 6}}
	small := ok(detail.Threshold(detail.ThresholdInput{Rungs: rungs}))(t)
	for i := range rungs {
		rungs[i].SizeMM *= 10
	}
	large := ok(detail.Threshold(detail.ThresholdInput{Rungs: rungs}))(t)
	if math.Abs(*large.D50MM-10**small.D50MM) > 1e-6 || math.Abs(*large.D90MM-10**small.D90MM) > 1e-6 {
		t.Errorf("D50 %v and %v, D90 %v and %v", *small.D50MM, *large.D50MM, *small.D90MM, *large.D90MM)
	}
}

func TestPartsAddUpToThePrint(t *testing.T) {
	got := ok(cost.Piece(cost.PieceInput{ResinML: 40, ResinPerLitre: 30, WastePct: quantity.Ptr(5.0), Consumables: []cost.Consumable{{Name: "film", Price: 14, Life: 60000, Unit: "layer"}},
		Print: cost.Print{TotalS: 7200, LightOnS: 2000, Layers: 900}, PowerW: 60, EnergyPerKWh: 0.3, AttendedMin: 15, LabourPerH: 20, Copies: 4, Success: cost.Success{Good: 7, Tried: 8}}))(t)
	var sum float64
	for _, p := range got.Parts {
		sum += p.Cost
	}
	if !near(sum, got.PrintCost) || *got.PerGoodPiece <= got.PerCopy || got.PerGoodCI[0] > *got.PerGoodPiece || got.PerGoodCI[1] < *got.PerGoodPiece {
		t.Errorf("parts %v of %v, %v a copy, %v a good one within %v", sum, got.PrintCost, got.PerCopy, *got.PerGoodPiece, *got.PerGoodCI)
	}
}

func TestSightThresholdLooksAsLargeAsTheAcuity(t *testing.T) {
	for _, distance := range []float64{100, 300, 700} {
		threshold := ok(optics.Sight(optics.SightInput{SizeUM: 1, DistanceMM: distance}))(t).ThresholdUM
		if got := ok(optics.Sight(optics.SightInput{SizeUM: threshold, DistanceMM: distance}))(t); !near(got.Ratio, 1) || got.Verdict != "borderline" {
			t.Errorf("at %v mm: %+v", distance, got)
		}
	}
}

// Whatever is sent, a calculator answers with numbers or names a field; it
// neither panics nor answers with what JSON cannot carry, short of overflow,
// which the API refuses.
func FuzzCalculators(f *testing.F) {
	files, err := filepath.Glob("testdata/vectors/*.json")
	if err != nil {
		f.Fatal(err)
	}
	for _, name := range files {
		raw, err := os.ReadFile(name)
		if err != nil {
			f.Fatal(err)
		}
		var file vectorFile
		if err := json.Unmarshal(raw, &file); err != nil {
			f.Fatal(err)
		}
		for _, c := range file.Cases {
			f.Add(file.Endpoint, []byte(c.Input))
		}
	}
	f.Fuzz(func(t *testing.T, endpoint string, body []byte) {
		calculate, known := calculators[endpoint]
		if !known || len(body) > 4096 {
			return
		}
		_, err := calculate(body)
		var field *quantity.FieldError
		if err != nil && (!errors.As(err, &field) || field.Path == "") {
			t.Errorf("error without a field: %v", err)
		}
	})
}
