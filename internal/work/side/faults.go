package side

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/contest"
	"ojime/internal/core/outcome"
	"ojime/internal/say"
)

// FaultPrint is one judged print with the symptoms that count against it, in the order of
// time: Symptoms says each with the number of copies that show it, Specimens how many copies
// show any; Shape is how its bead shows it.
type FaultPrint struct {
	Side      int    `json:"side"`
	RunID     string `json:"run_id"`
	Run       string `json:"run"`
	AtMS      int64  `json:"at_ms"`
	Symptoms  string `json:"symptoms"`
	Specimens int64  `json:"specimens"`
	Of        int64  `json:"of"`
	Shape     string `json:"shape" enum:"whole,nicked,split,ring,open"`
}

// FaultsOf are the symptoms of what was printed so, over the sides and over time. Accidents
// count against nobody and are no fault of a side.
func FaultsOf(sides []Prints) ([]contest.Fault, []FaultPrint) {
	var seen []contest.FaultSeen
	inTime := []FaultPrint{}
	judged, names := make([]int64, len(sides)), make([]string, len(sides))
	for i, s := range sides {
		if names[i] = Letter(i); s.Reference != nil {
			continue
		}
		for j, sheet := range s.Sheets {
			p, of := faultsOn(sheet.Specimens)
			if p.Of == 0 {
				continue
			}
			judged[i]++
			for _, symptom := range of {
				seen = append(seen, contest.FaultSeen{Side: i, Print: j, Symptom: symptom})
			}
			p.Side, p.RunID, p.Run, p.AtMS, p.Shape = i, sheet.Run.ID, sheet.Run.Code, sheet.Run.StartedMS, s.Prints[j].Counts.Shape()
			inTime = append(inTime, p)
		}
	}
	slices.SortStableFunc(inTime, func(a, b FaultPrint) int { return cmp.Compare(a.AtMS, b.AtMS) })
	return contest.Faults(contest.BySide, seen, judged, names), inTime
}

// faultsOn are the symptoms on the copies of one print, each once a copy.
func faultsOn(specimens []bench.Specimen) (p FaultPrint, all []string) {
	counts, order := map[string]int64{}, []string{}
	for _, s := range specimens {
		if !s.Judged() {
			continue
		}
		p.Of++
		had := map[string]bool{}
		for _, d := range s.Counting() {
			if !(outcome.Defect{Origin: d.Origin}).PrintedSo() || d.Symptom == "" || had[d.Symptom] {
				continue
			}
			if had[d.Symptom] = true; counts[d.Symptom] == 0 {
				order = append(order, d.Symptom)
			}
			counts[d.Symptom]++
			all = append(all, d.Symptom)
		}
		if len(had) > 0 {
			p.Specimens++
		}
	}
	var words []string
	for _, symptom := range order {
		words = append(words, fmt.Sprintf("%s on %s", symptom, say.Counted(counts[symptom], "copy", "copies")))
	}
	p.Symptoms = strings.Join(words, ", ")
	return p, all
}
