package side

import (
	"maps"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/contest"
	"ojime/internal/core/diagnose"
	"ojime/internal/store"
	"ojime/internal/work/printing"
	"ojime/internal/work/upkeep"
)

// FaultsBy is the faults of a comparison counted by something else than its sides: by the
// machine, resin, piece or software that they fall together with.
type FaultsBy struct {
	By     string          `json:"by" enum:"machine,resin,piece,software"`
	Names  []string        `json:"names"`
	Faults []contest.Fault `json:"faults"`
}

// FaultsByOther counts the faults by each thing of which the prints shown have several, and that
// is not just what the sides are.
func FaultsByOther(sides []Prints) []FaultsBy {
	out := []FaultsBy{}
	for _, by := range []string{contest.ByMachine, contest.ByResin, contest.ByPiece, contest.BySoftware} {
		g := faultGroups{at: map[string]int{}, cells: map[[2]int]bool{}}
		for i, s := range sides {
			if s.Reference == nil {
				for _, sheet := range s.Sheets {
					g.add(by, i, sheet)
				}
			}
		}
		if len(g.names) > 1 && len(g.seen) > 0 && g.acrossSides() {
			out = append(out, FaultsBy{By: by, Names: g.names, Faults: contest.Faults(by, g.seen, g.judged, g.names)})
		}
	}
	return out
}

// faultGroups gathers what prints show by what they have in common.
type faultGroups struct {
	names  []string
	at     map[string]int // the place of an id among the names
	judged []int64
	seen   []contest.FaultSeen
	prints int
	cells  map[[2]int]bool // side and group that have a print
}

// add counts a print with the copies that belong to each group.
func (g *faultGroups) add(by string, side int, sheet *printing.RunSheet) {
	g.prints++
	switch by {
	case contest.ByMachine:
		g.addCopies(side, sheet.Machine.ID, sheet.Machine.Name, sheet.Specimens)
	case contest.ByResin:
		g.addCopies(side, sheet.Resin.ID, sheet.Resin.Name, sheet.Specimens)
	case contest.BySoftware:
		software := sheet.Run.SoftwareNoted()
		g.addCopies(side, software, software, sheet.Specimens)
	case contest.ByPiece:
		for _, p := range sheet.Pieces {
			g.addCopies(side, p.ID, p.Name, slices.DeleteFunc(slices.Clone(sheet.Specimens), func(s bench.Specimen) bool { return s.PieceID != p.ID }))
		}
	}
}

func (g *faultGroups) addCopies(side int, id, name string, copies []bench.Specimen) {
	p, symptoms := faultsOn(copies)
	if p.Of == 0 {
		return
	}
	i, known := g.at[id]
	if !known {
		i = len(g.names)
		g.at[id], g.names, g.judged = i, append(g.names, name), append(g.judged, 0)
	}
	g.cells[[2]int{side, i}] = true
	g.judged[i]++
	for _, symptom := range symptoms {
		g.seen = append(g.seen, contest.FaultSeen{Side: i, Print: g.prints, Symptom: symptom})
	}
}

// acrossSides reports that the groups are not just the sides under another name: a side has
// several, or several sides have one.
func (g *faultGroups) acrossSides() bool {
	ofSide, ofGroup := map[int]int{}, map[int]int{}
	for cell := range g.cells {
		ofSide[cell[0]]++
		ofGroup[cell[1]]++
	}
	several := func(n int) bool { return n > 1 }
	return slices.ContainsFunc(slices.Collect(maps.Values(ofSide)), several) || slices.ContainsFunc(slices.Collect(maps.Values(ofGroup)), several)
}

// FaultRemedies are the remedies tried on prints of a comparison against one symptom, and
// how such faults fare on these machines with and without one, over all their prints.
type FaultRemedies struct {
	Symptom string               `json:"symptom"`
	Fared   diagnose.Fared       `json:"fared"`
	Tried   []upkeep.TriedRemedy `json:"tried"`
}

// RemediesOf reads what was tried against the faults that the sides show; what else was on
// their plates is not theirs.
func RemediesOf(t *store.Tx, sides []Prints, faults []contest.Fault) ([]FaultRemedies, error) {
	out := []FaultRemedies{}
	shown, machines := map[string]bool{}, map[string]bool{}
	for _, s := range sides {
		for _, sheet := range s.Sheets {
			shown[sheet.Run.ID], machines[sheet.Machine.ID] = true, true
		}
	}
	on := func(runID string) bool { return shown[runID] }
	remedies, err := t.Remedies()
	if err != nil || !slices.ContainsFunc(remedies, func(r bench.Remedy) bool { return on(r.RunID) }) {
		return out, err
	}
	record, err := upkeep.Faults(t)
	if err != nil {
		return out, err
	}
	tried, err := record.TriedOn(t, on)
	if err != nil {
		return out, err
	}
	fared, err := diagnose.Fare(record.Of(func(id string) bool { return machines[id] }))
	if err != nil {
		return out, err
	}
	for _, f := range fared {
		of := FaultRemedies{Symptom: f.Symptom, Fared: f}
		for _, v := range tried {
			if v.Symptom == f.Symptom {
				of.Tried = append(of.Tried, v)
			}
		}
		if len(of.Tried) > 0 && slices.ContainsFunc(faults, func(seen contest.Fault) bool { return seen.Symptom == f.Symptom }) {
			out = append(out, of)
		}
	}
	return out, nil
}
