package compare

import (
	"slices"

	"ojime/internal/core/audit"
	"ojime/internal/core/contest"
	"ojime/internal/work/side"
)

// timeOf begins the key of the time of a plate, removalOfPlate that of taking its supports
// off.
const (
	timeOf         = "time "
	removalOfPlate = "removal "
)

// matchedLabel names times that are compared plate by plate.
var matchedLabel = map[string]string{timeOf: "Time, plate by plate", removalOfPlate: "Taking supports off, plate by plate"}

// times are those of printing, and of taking supports off.
func (t *table) times() error {
	if err := t.timesOf(timeOf, "Time of a plate of ", audit.Time, func(s side.Prints, print int) *float64 { return s.Prints[print].TookS }); err != nil {
		return err
	}
	return t.timesOf(removalOfPlate, "Taking supports off a plate of ", audit.Finish, func(s side.Prints, print int) *float64 { return s.RemovalS[print] })
}

// timesOf are times of prints by the kind of plate: plates of other fill are not averaged.
func (t *table) timesOf(key, label, question string, of func(side.Prints, int) *float64) error {
	var kinds []string
	var strata [][][]float64
	for i, s := range t.sides {
		for j := range s.Prints {
			took := of(s, j)
			if took == nil {
				continue
			}
			kind := s.Sheets[j].Printed + t.like.unlike(s.Sheets[j]) + t.like.apart(s.Sheets[j])
			at := slices.Index(kinds, kind)
			if at < 0 {
				at, kinds, strata = len(kinds), append(kinds, kind), append(strata, make([][]float64, len(t.sides)))
			}
			strata[at][i] = append(strata[at][i], *took)
		}
	}
	for at, kind := range kinds {
		m, err := contest.Times(key+kind, label+kind, strata[at], t.pairs)
		if err != nil {
			return err
		}
		t.add(m, question)
	}
	if len(kinds) > 1 {
		t.add(contest.MatchedTimes(key+"matched", matchedLabel[key], strata, t.pairs), question)
	}
	return nil
}
