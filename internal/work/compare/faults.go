package compare

import (
	"ojime/internal/core/contest"
	"ojime/internal/core/outcome"
)

// faultsOf are the symptoms of what was printed so, over the sides. Accidents count against
// nobody and are no fault of a side.
func faultsOf(sides []side) []contest.Fault {
	var seen []contest.FaultSeen
	judged, names := make([]int64, len(sides)), make([]string, len(sides))
	for i, s := range sides {
		names[i] = letter(i)
		for j, sheet := range s.sheets {
			known := false
			for _, p := range sheet.Specimens {
				known = known || p.Judged()
				had := map[string]bool{} // a copy has a symptom once
				for _, d := range p.Counting() {
					if (outcome.Defect{Origin: d.Origin}).PrintedSo() && d.Symptom != "" && !had[d.Symptom] {
						had[d.Symptom] = true
						seen = append(seen, contest.FaultSeen{Side: i, Print: j, Symptom: d.Symptom})
					}
				}
			}
			if known {
				judged[i]++
			}
		}
	}
	return contest.Faults(seen, judged, names)
}
