package stress

import (
	"math/rand/v2"
	"slices"
)

// Specimen is one of a series: which it is, of which print, of which set-up, and at which
// level it is stressed where it is stressed once.
type Specimen struct {
	ID, Print, SetUp string
	Level            *float64
}

// Deal gives each fresh specimen its level, drawn from a seed: as many of every set-up as can
// be to every level, and copies of one print to different ones, so that no level is that of
// one print. It gives them in the order of the specimens.
func Deal(specimens []Specimen, levels []float64, seed uint64) []float64 {
	out := make([]float64, len(specimens))
	chance := rand.New(rand.NewPCG(seed, 0x9e3779b97f4a7c15))
	var setUps []string
	prints, copies := map[string][]string{}, map[string][]int{}
	for i, s := range specimens {
		if !slices.Contains(setUps, s.SetUp) {
			setUps = append(setUps, s.SetUp)
		}
		if !slices.Contains(prints[s.SetUp], s.Print) {
			prints[s.SetUp] = append(prints[s.SetUp], s.Print)
		}
		copies[s.SetUp+"\n"+s.Print] = append(copies[s.SetUp+"\n"+s.Print], i)
	}
	for _, setUp := range setUps {
		order, n := chance.Perm(len(levels)), 0
		own := slices.Clone(prints[setUp])
		chance.Shuffle(len(own), func(i, j int) { own[i], own[j] = own[j], own[i] })
		for _, print := range own {
			of := copies[setUp+"\n"+print]
			chance.Shuffle(len(of), func(i, j int) { of[i], of[j] = of[j], of[i] })
			for _, i := range of {
				out[i] = levels[order[n%len(levels)]]
				n++
			}
		}
	}
	return out
}

// Step is one test of a series: a specimen, by its index, at a level.
type Step struct {
	Specimen int
	Level    float64
}

// Test is what a test showed: a class of damage, or the deflection of a bar in mm.
type Test struct {
	SpecimenID   string
	Level        float64
	Damage       *int64
	DeflectionMM *float64
}

// Steps are the tests of a series in their order. Levels rise, so that each is set once, and
// within one chance decides who is next; a bar takes all its loads before the next bar. What
// failed at a level is not stressed at the next.
func (s Series) Steps(specimens []Specimen, tests []Test) (out []Step) {
	chance := rand.New(rand.NewPCG(s.Seed, 0xbf58476d1ce4e5b9))
	if kind, _ := KindOf(s.Kind); kind.Measured {
		for _, i := range chance.Perm(len(specimens)) {
			for _, level := range s.Levels {
				out = append(out, Step{i, level})
			}
		}
		return out
	}
	for _, level := range s.Levels {
		for _, i := range chance.Perm(len(specimens)) {
			if s.isAsked(specimens[i], level, tests) {
				out = append(out, Step{i, level})
			}
		}
	}
	return out
}

func (s Series) isAsked(p Specimen, level float64, tests []Test) bool {
	if s.Mode == Fresh {
		return p.Level != nil && *p.Level == level
	}
	return !slices.ContainsFunc(tests, func(t Test) bool {
		return t.SpecimenID == p.ID && t.Level < level && s.Failed(t)
	})
}

// Failed reports that a test showed damage from the class on that counts as failed.
func (s Series) Failed(t Test) bool { return t.Damage != nil && *t.Damage >= s.FailsFrom }
