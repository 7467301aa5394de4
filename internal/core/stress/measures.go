package stress

import (
	"fmt"
	"math"
	"strconv"

	"ojime/internal/core/contest"
	"ojime/internal/core/evidence"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// Measures are what sides show of one stress, with the print as the unit: how many fresh
// specimens held at each level, and, where every print has one at every level, the highest
// that all of a print bore; the level at which climbing specimens first failed, or, where
// some held to the last, how many had failed at each.
func Measures(key, label string, kind Kind, sides [][]Print, pairs [][2]int) (out []contest.Measure, err error) {
	fresh, climbed := split(sides)
	if someHave(fresh) {
		if out, err = rates(out, key, label, kind, fresh, pairs); err != nil {
			return nil, err
		}
		if own, whole := ownHighest(fresh); whole {
			m, err := contest.Levels(key+" highest", label+": highest that all of a print bore", kind.Unit, own, pairs)
			if err != nil {
				return nil, err
			}
			out = append(out, m)
		}
	}
	if !someHave(climbed) {
		return out, nil
	}
	firsts, held := make([]evidence.NestedSide, len(sides)), make([]int64, len(sides))
	var most int64
	for i := range climbed {
		firsts[i], held[i] = Firsts(climbed[i])
		most = max(most, held[i])
	}
	m, err := contest.Levels(key+" first", label+", climbing: "+kind.Level+" at which one first fails", kind.Unit, firsts, pairs)
	if err != nil {
		return nil, err
	}
	for i, n := range held {
		if n > 0 {
			m.Sides[i].Note = fmt.Sprintf("%s held to the last, so that their mean is not known.", say.Counted(n, "specimen"))
		}
	}
	out = append(out, m)
	if most > 0 {
		return rates(out, key+" climbing", label+", climbing", kind, climbed, pairs)
	}
	return out, nil
}

// split sets fresh specimens and those that climbed apart: they are never brought together.
func split(sides [][]Print) (fresh, climbed [][]Print) {
	fresh, climbed = make([][]Print, len(sides)), make([][]Print, len(sides))
	for i, prints := range sides {
		for _, p := range prints {
			if len(p.Fresh) > 0 {
				fresh[i] = append(fresh[i], Print{Fresh: p.Fresh})
			}
			if len(p.Climbed) > 0 {
				climbed[i] = append(climbed[i], Print{Climbed: p.Climbed})
			}
		}
	}
	return fresh, climbed
}

func someHave(sides [][]Print) bool {
	for _, prints := range sides {
		if len(prints) > 0 {
			return true
		}
	}
	return false
}

// matters is the difference of two shares that held at a level which matters: half of the
// specimens. A stress is set to the extreme, so that a fifth more or less is no decision.
const matters = 0.5

// rates are a row a level.
func rates(out []contest.Measure, key, label string, kind Kind, sides [][]Print, pairs [][2]int) ([]contest.Measure, error) {
	var all []Print
	for _, prints := range sides {
		all = append(all, prints...)
	}
	for _, rung := range Rungs(all) {
		counts := make([][]evidence.PrintCount, len(sides))
		for i, prints := range sides {
			for _, p := range prints {
				if n := p.at(rung.Level); n.Judged > 0 {
					counts[i] = append(counts[i], n)
				}
			}
		}
		m, err := contest.Rates(key+" "+strconv.FormatFloat(rung.Level, 'g', -1, 64), label+": "+kind.Held(rung.Level), counts, pairs, quantity.Ptr(matters))
		if err != nil {
			return nil, err
		}
		for i := range m.Sides {
			if m.Sides[i].Value == nil {
				m.Sides[i].Note = "Not tested at this level."
			}
		}
		out = append(out, contest.Present(m))
	}
	return out, nil
}

// ownHighest are the highest levels that all of a print's fresh specimens bore, up to which
// none failed; 0 where one failed at the lowest. It takes prints that were stressed at every
// level of all: whole is false where one was not.
func ownHighest(sides [][]Print) (out []evidence.NestedSide, whole bool) {
	out = make([]evidence.NestedSide, len(sides))
	var all []Print
	for _, prints := range sides {
		all = append(all, prints...)
	}
	rungs := Rungs(all)
	for i, prints := range sides {
		for _, p := range prints {
			highest, before, failed := 0.0, 0.0, false
			for _, r := range rungs {
				n := p.at(r.Level)
				if n.Judged == 0 {
					return nil, false
				}
				if failed = failed || n.Failed > 0; failed {
					break
				}
				before, highest = highest, r.Level
			}
			out[i].Prints = append(out[i].Prints, evidence.NestedPrint{Specimens: []evidence.NestedSpecimen{{ValuesMM: []float64{highest}}}})
			out[i].Instrument.ResolutionMM = math.Max(out[i].Instrument.ResolutionMM, step(rungs, highest, before))
		}
	}
	return out, len(rungs) > 1
}

// step is from a level that held to the next higher one, or from the one before to the last.
func step(rungs []Rung, highest, before float64) float64 {
	for _, r := range rungs {
		if r.Level > highest {
			return r.Level - highest
		}
	}
	return highest - before
}

// HalfWords say where half of a side's fresh specimens hold; empty where it cannot be known.
func (k Kind) HalfWords(h Half) string {
	if h.Level == nil {
		return ""
	}
	text := "Half hold at " + k.LevelWords(math.Round(*h.Level))
	if h.Beyond {
		text = "Half hold beyond what was tested, by the curve at " + k.LevelWords(math.Round(*h.Level))
	}
	if h.CI != nil {
		return text + fmt.Sprintf(" (%s).", say.Interval(h.CI[0], h.CI[1], k.Unit))
	}
	return text + "; its interval cannot be known from these prints."
}
