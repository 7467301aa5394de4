package bench

import (
	"math"

	"ojime/internal/core/quantity"
	"ojime/internal/core/stress"
	"ojime/internal/core/viewing"
)

// StressSeries is a series of stress tests on named specimens: what rises from level to level,
// what each class of damage means, and the seed of its order. It cannot be changed. Stage is
// that of the specimens' surface, Under what they were stressed on or under.
type StressSeries struct {
	ID        string   `json:"id" required:"false" readOnly:"true"`
	Code      string   `json:"code" required:"false" readOnly:"true"`
	CreatedMS int64    `json:"created_ms" required:"false" readOnly:"true"`
	Kind      string   `json:"kind" enum:"drop,bend,fit,heat,sun,stiffness"`
	Mode      string   `json:"mode" enum:"fresh,cumulative"`
	Name      string   `json:"name" minLength:"1"`
	Under     string   `json:"under" minLength:"1"`
	Stage     string   `json:"stage" enum:"raw,washed,cured,varnished,primed,painted"`
	Levels    Sizes    `json:"levels" minItems:"1" maxItems:"12"`
	Anchors   Notes    `json:"anchors" required:"false"`
	FailsFrom int64    `json:"fails_from" required:"false" minimum:"0" maximum:"4"`
	SpanMM    *float64 `json:"span_mm" required:"false" exclusiveMinimum:"0"`
	Seed      int64    `json:"seed" required:"false" readOnly:"true"`
	EndedMS   *int64   `json:"ended_ms" required:"false" readOnly:"true"`
	EndedWhy  string   `json:"ended_why" required:"false" readOnly:"true"`
}

// Named is the series by its code, with why it ended before all of it was tested.
func (s StressSeries) Named() string {
	if s.EndedMS == nil {
		return s.Code
	}
	return s.Code + " (ended early: " + s.EndedWhy + ")"
}

// Plan is the series as it is planned and read.
func (s StressSeries) Plan() stress.Series {
	return stress.Series{Kind: s.Kind, Mode: s.Mode, Under: s.Under, Levels: s.Levels, Anchors: s.Anchors, FailsFrom: s.FailsFrom, SpanMM: s.SpanMM, Seed: uint64(s.Seed)}
}

// Check reports by field what the series lacks or what cannot be.
func (s StressSeries) Check() error {
	var c quantity.Checks
	c.OneOf("stage", s.Stage, viewing.Stages...)
	if c.Err() != nil {
		return c.Err()
	}
	return s.Plan().Check()
}

// Plain leaves out what does not belong to the kind: a bar has no classes of damage.
func (s *StressSeries) Plain() {
	if kind, _ := stress.KindOf(s.Kind); kind.Measured {
		s.Anchors, s.FailsFrom = Notes{}, 0
	}
}

// Takes reports a test that shows what this series does not ask for.
func (s StressSeries) Takes(t StressTest) error {
	if err := t.Check(); err != nil {
		return err
	}
	kind, _ := stress.KindOf(s.Kind)
	switch {
	case kind.Measured && t.DeflectionMM == nil:
		return quantity.Errorf("deflection_mm", "is missing; read how far the bar bent, in mm")
	case !kind.Measured && t.Damage == nil:
		return quantity.Errorf("damage", "is missing; say which class of damage it shows")
	}
	return nil
}

// StressSpecimen is a specimen of a series, at its position among them; Level is where it is
// stressed once. Its mass is that of a fall, its width and thickness those of a bar.
type StressSpecimen struct {
	ID             string   `json:"id"`
	StressSeriesID string   `json:"stress_series_id"`
	SpecimenID     string   `json:"specimen_id"`
	Position       int64    `json:"position"`
	Level          *float64 `json:"level"`
	MassG          *float64 `json:"mass_g"`
	WidthMM        *float64 `json:"width_mm"`
	ThicknessMM    *float64 `json:"thickness_mm"`
}

// Check reports what was measured of it and is no size or mass.
func (s StressSpecimen) Check() error {
	var c quantity.Checks
	c.AboveIf("mass_g", s.MassG)
	c.AboveIf("width_mm", s.WidthMM)
	c.AboveIf("thickness_mm", s.ThicknessMM)
	return c.Err()
}

// Bar is its width and thickness; ok is false where one is not known.
func (s StressSpecimen) Bar() (b stress.Bar, ok bool) {
	if s.WidthMM == nil || s.ThicknessMM == nil {
		return b, false
	}
	return stress.Bar{WidthMM: *s.WidthMM, ThicknessMM: *s.ThicknessMM}, true
}

// StressTest is what one test showed: a class of damage, 0 to 4, and which part it was, or
// the deflection of a bar under its load. It is appended; one that was wrong is taken back.
type StressTest struct {
	ID             string   `json:"id"`
	StressSeriesID string   `json:"stress_series_id"`
	SpecimenID     string   `json:"specimen_id"`
	Level          float64  `json:"level"`
	Damage         *int64   `json:"damage"`
	DeflectionMM   *float64 `json:"deflection_mm"`
	Part           string   `json:"part"`
	Note           string   `json:"note"`
	AtMS           int64    `json:"at_ms"`
	TakenBackMS    *int64   `json:"taken_back_ms"`
}

// Check reports a test that shows neither damage nor a deflection, or both.
func (t StressTest) Check() error {
	var c quantity.Checks
	switch {
	case t.Damage != nil && t.DeflectionMM != nil:
		c.Fail("damage", "and a deflection are given; a test shows one of them")
	case t.Damage == nil && t.DeflectionMM == nil:
		c.Fail("damage", "is missing; say which class of damage it shows")
	case t.Damage != nil && (*t.Damage < 0 || *t.Damage >= stress.Classes):
		c.Fail("damage", "is %d; it is a class of 0 to 4", *t.Damage)
	case t.DeflectionMM != nil && (!(*t.DeflectionMM >= 0) || math.IsInf(*t.DeflectionMM, 0)):
		c.Fail("deflection_mm", "is %v; give it in mm, 0 or more", *t.DeflectionMM)
	}
	c.Above("level", t.Level)
	return c.Err()
}

// Shown is the test as it is read.
func (t StressTest) Shown() stress.Test {
	return stress.Test{SpecimenID: t.SpecimenID, Level: t.Level, Damage: t.Damage, DeflectionMM: t.DeflectionMM}
}

// ShownTests are the tests that were not taken back.
func ShownTests(tests []StressTest) (out []stress.Test) {
	for _, t := range tests {
		if t.TakenBackMS == nil {
			out = append(out, t.Shown())
		}
	}
	return out
}

// Stressed is a specimen of a series with all its tests, also those taken back.
type Stressed struct {
	StressSpecimen
	Series StressSeries `json:"series"`
	Tests  []StressTest `json:"tests"`
}
