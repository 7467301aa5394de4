package stress

import (
	"cmp"
	"math"
	"slices"

	"ojime/internal/core/detail"
	"ojime/internal/core/evidence"
	"ojime/internal/core/mechanics"
	"ojime/internal/core/quantity"
	"ojime/internal/core/setup"
)

// Print is what one print's specimens showed in a stress: those stressed once, by the level
// of each, and those that climbed, each with the level at which it failed (nil where it held
// to the last) and the last it bore.
type Print struct {
	Fresh   []Once
	Climbed []Climb
}

// Once is one fresh specimen at its level.
type Once struct {
	Level float64
	Held  bool
}

// Climb is one cumulative specimen: FailedAt is nil where it held to the last level that it
// was put to, HeldTo 0 where it failed at the first. Step is from the level before to that at
// which it failed.
type Climb struct {
	FailedAt *float64
	HeldTo   float64
	Step     float64
}

// PrintsOf sorts what the tests of a series showed by print, in the order in which prints
// first stand among the specimens. Specimens that were not tested have none; one that
// climbed and neither failed nor came to the last level is not known yet and is left out.
func (s Series) PrintsOf(specimens []Specimen, tests []Test) (codes []string, out map[string]Print) {
	out = map[string]Print{}
	for _, p := range specimens {
		own := testsOf(p.ID, tests)
		if len(own) == 0 {
			continue
		}
		print, known := out[p.Print]
		if s.Mode == Fresh {
			print.Fresh = append(print.Fresh, Once{own[0].Level, !s.Failed(own[0])})
		} else if climb, ended := s.climb(own); ended {
			print.Climbed = append(print.Climbed, climb)
		} else {
			continue
		}
		if !known {
			codes = append(codes, p.Print)
		}
		out[p.Print] = print
	}
	return codes, out
}

func testsOf(id string, tests []Test) (out []Test) {
	for _, t := range tests {
		if t.SpecimenID == id {
			out = append(out, t)
		}
	}
	slices.SortFunc(out, func(a, b Test) int { return cmp.Compare(a.Level, b.Level) })
	return out
}

// climb is what one specimen showed that went from level to level.
func (s Series) climb(tests []Test) (out Climb, ended bool) {
	for _, t := range tests {
		if s.Failed(t) {
			out.FailedAt, out.Step = quantity.Ptr(t.Level), t.Level-out.HeldTo
			return out, true
		}
		out.HeldTo = t.Level
	}
	return out, out.HeldTo >= s.Levels[len(s.Levels)-1]
}

// Climbed is what the specimens of prints showed that went from level to level: of how many, how many survived the last level
// that they were put to, which is the highest of those; and between which levels the others failed.
type Climbed struct {
	Of       int64              `json:"of"`
	Survived int64              `json:"survived"`
	Highest  float64            `json:"highest"`
	Failed   *quantity.Interval `json:"failed"`
}

// ClimbedOf counts the specimens of prints that climbed; none is Of 0.
func ClimbedOf(prints []Print) (out Climbed) {
	for _, p := range prints {
		for _, c := range p.Climbed {
			out.Of++
			if c.FailedAt == nil {
				out.Survived, out.Highest = out.Survived+1, max(out.Highest, c.HeldTo)
				continue
			}
			if out.Failed == nil {
				out.Failed = &quantity.Interval{*c.FailedAt, *c.FailedAt}
			}
			*out.Failed = quantity.Interval{min(out.Failed[0], *c.FailedAt), max(out.Failed[1], *c.FailedAt)}
		}
	}
	return out
}

// Rung is a level over prints: of how many specimens how many held, print by print.
type Rung struct {
	Level    float64
	Held, Of int64
	Prints   []evidence.PrintCount // Failed of Judged, print by print
}

// Rungs are the levels at which specimens of prints were stressed, the lowest first; of those
// that climbed, one that failed earlier would have failed here too.
func Rungs(prints []Print) (out []Rung) {
	var levels []float64
	for _, p := range prints {
		for _, o := range p.Fresh {
			levels = append(levels, o.Level)
		}
		for _, c := range p.Climbed {
			if c.FailedAt != nil {
				levels = append(levels, *c.FailedAt)
			}
			if c.HeldTo > 0 {
				levels = append(levels, c.HeldTo)
			}
		}
	}
	slices.Sort(levels)
	for _, level := range slices.Compact(levels) {
		rung := Rung{Level: level}
		for _, p := range prints {
			if n := p.at(level); n.Judged > 0 {
				rung.Prints = append(rung.Prints, n)
				rung.Of, rung.Held = rung.Of+n.Judged, rung.Held+n.Judged-n.Failed
			}
		}
		out = append(out, rung)
	}
	return out
}

func (p Print) at(level float64) (n evidence.PrintCount) {
	for _, o := range p.Fresh {
		if o.Level == level {
			n.Judged++
			if !o.Held {
				n.Failed++
			}
		}
	}
	for _, c := range p.Climbed {
		switch {
		case c.FailedAt != nil && *c.FailedAt <= level:
			n.Judged, n.Failed = n.Judged+1, n.Failed+1
		case c.HeldTo >= level:
			n.Judged++
		}
	}
	return n
}

// Half is the level at which half hold, by mechanics.Drop, with its interval: by profile
// where every specimen is a print of its own, else by leaving out each print in turn. Both
// nil where it cannot be known. Beyond says that it lies above or below all levels tested.
type Half struct {
	Level  *float64
	CI     *quantity.Interval
	Beyond bool
}

// HalfOf is the level (mm of a fall, N of a load) that half of the specimens bear, with its interval over prints, from fresh
// specimens alone: one that bore something before is weaker than it was. Source: the threshold of a ladder turned over
// (detail.Threshold) and, for its energy, mechanics.Drop.
func HalfOf(prints []Print) (out Half) {
	ladders, falls := []setup.LadderPrint{}, []mechanics.Fall{}
	lowest, highest := math.Inf(1), 0.0
	for _, p := range prints {
		if len(p.Fresh) > 0 {
			ladders = append(ladders, setup.LadderPrint{Rungs: p.inverted()})
		}
		for _, o := range p.Fresh {
			falls = append(falls, mechanics.Fall{HeightMM: o.Level, Survived: map[bool]int64{true: 1}[o.Held], Of: 1})
			lowest, highest = math.Min(lowest, o.Level), math.Max(highest, o.Level)
		}
	}
	if len(falls) == 0 {
		return out
	}
	if len(ladders) == len(falls) {
		out = byProfile(falls)
	} else {
		out = byPrints(setup.LadderOf(ladders))
	}
	out.Beyond = out.Level != nil && (*out.Level > highest || *out.Level < lowest)
	return out
}

func byProfile(falls []mechanics.Fall) (out Half) {
	r, err := mechanics.Drop(mechanics.DropInput{MassG: 1, Heights: falls})
	if err != nil {
		return out
	}
	out.Level = r.Firth.Height50MM
	if ci := r.Firth.CIMM; ci != nil && ci[0] != nil && ci[1] != nil {
		out.CI = &quantity.Interval{*ci[0], *ci[1]}
	}
	return out
}

func byPrints(l setup.Ladder) (out Half) {
	if l.D50MM != nil {
		out.Level = quantity.Ptr(1 / *l.D50MM)
	}
	if l.D50CIMM != nil {
		out.CI = &quantity.Interval{1 / l.D50CIMM[1], 1 / l.D50CIMM[0]}
	}
	return out
}

// inverted is a print's fresh specimens as a ladder of sizes: what falls less holds more.
func (p Print) inverted() (out []detail.Rung) {
	for _, o := range p.Fresh {
		out = append(out, detail.Rung{SizeMM: 1 / o.Level, Intact: map[bool]int64{true: 1}[o.Held], Of: 1})
	}
	return out
}

// Firsts are the levels at which climbing specimens first failed, print by print, and how
// many held to the last: where any did, a mean of the others would be too low, and Side has
// no prints.
func Firsts(prints []Print) (side evidence.NestedSide, held int64) {
	for _, p := range prints {
		var print evidence.NestedPrint
		for _, c := range p.Climbed {
			if c.FailedAt == nil {
				held++
				continue
			}
			print.Specimens = append(print.Specimens, evidence.NestedSpecimen{ValuesMM: []float64{*c.FailedAt}})
			side.Instrument.ResolutionMM = math.Max(side.Instrument.ResolutionMM, c.Step)
		}
		if len(print.Specimens) > 0 {
			side.Prints = append(side.Prints, print)
		}
	}
	if held > 0 {
		side.Prints = nil
	}
	return side, held
}

// Bar is what is measured of a bar: width and thickness in mm, > 0.
type Bar struct{ WidthMM, ThicknessMM float64 }

// Moduli are a bar's stiffness in MPa at each load above the first, which is the preload, by
// mechanics.Bend; bent are those whose deflection was beyond what the formula holds for.
func (s Series) Moduli(id string, bar Bar, tests []Test) (mpa []float64, bent int, err error) {
	var first *Test
	for _, t := range testsOf(id, tests) {
		if t.DeflectionMM == nil {
			continue
		}
		if first == nil {
			first = &t
			continue
		}
		r, err := mechanics.Bend(mechanics.BendInput{SpanMM: *s.SpanMM, WidthMM: bar.WidthMM, ThicknessMM: bar.ThicknessMM, MassG: t.Level, DeflectionMM: *t.DeflectionMM,
			Mass0G: &first.Level, Deflection0MM: first.DeflectionMM})
		if err != nil {
			return nil, 0, err
		}
		if r.Has("large_deflection") {
			bent++
			continue
		}
		mpa = append(mpa, r.ModulusMPA)
	}
	return mpa, bent, nil
}
