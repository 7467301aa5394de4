package printing

import (
	"cmp"
	"slices"
	"sync"

	"ojime/internal/bench"
	"ojime/internal/store"
)

// CopyReadings are the readings of one copy in one feature, the first taken first.
type CopyReadings struct {
	SpecimenID string
	Readings   []*bench.Reading
}

// ByFeature are the bare readings of a print by feature and, in the order of its copies, by copy, without copies that are
// set aside. They are sorted once, however many comparisons ask for them, and are not to be changed.
func (s *RunSheet) ByFeature() map[string][]CopyReadings {
	if s.sorted == nil {
		return s.sort()
	}
	return s.sorted()
}

// sortedKey is under which the sorted readings of a print are kept, judgedLists what they are sorted from.
type (
	sortedKey   struct{ runID string }
	judgedLists struct {
		copies   store.List[bench.Specimen]
		readings store.List[bench.Reading]
	}
)

// sortOnce sorts the readings of the whole print when they are asked for, also where what asks was narrowed to a piece. Where no
// copy reached a stage after the print, they stay sorted until the print is read or judged anew.
func (s *RunSheet) sortOnce(t *store.Tx) {
	whole := *s
	s.sorted = sync.OnceValue(func() map[string][]CopyReadings {
		if len(whole.Stages) > 0 {
			return whole.sort()
		}
		return store.Derived(t, sortedKey{whole.Run.ID}, judgedLists{store.ListOf(whole.Specimens), store.ListOf(whole.Readings)}, whole.sort)
	})
}

func (s *RunSheet) sort() map[string][]CopyReadings {
	place := make(map[string]int, len(s.Specimens))
	for i, p := range s.Specimens {
		if !p.SetAside() {
			place[p.ID] = i
		}
	}
	bare := s.Bare()
	counts, order := make([]int, len(s.Specimens)+1), make([]int, len(bare))
	for i, r := range bare {
		at, counted := place[r.SpecimenID]
		if !counted {
			at = len(s.Specimens)
		}
		order[i] = at
		counts[at]++
	}
	byCopy := make([][]*bench.Reading, len(s.Specimens))
	all := make([]*bench.Reading, 0, len(bare))
	for i := range byCopy {
		n := len(all)
		all = all[:n+counts[i]]
		byCopy[i] = all[n:n:len(all)]
	}
	for i := range bare {
		if at := order[i]; at < len(byCopy) {
			byCopy[at] = append(byCopy[at], &bare[i])
		}
	}
	out := make(map[string][]CopyReadings, len(s.Features))
	for i, readings := range byCopy {
		// Stable, so that those of a feature stay as they were taken.
		slices.SortStableFunc(readings, func(a, b *bench.Reading) int { return cmp.Compare(a.FeatureID, b.FeatureID) })
		for len(readings) > 0 {
			feature, n := readings[0].FeatureID, 1
			for n < len(readings) && readings[n].FeatureID == feature {
				n++
			}
			out[feature] = append(out[feature], CopyReadings{s.Specimens[i].ID, readings[:n:n]})
			readings = readings[n:]
		}
	}
	return out
}
