package publish

import (
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/edition"
)

// namedPart is a part that the program writes: its key, which is the name of its template, and what the reviewer sees it called.
type namedPart struct{ Key, Name string }

// usualParts are the parts of a write-up in their usual order. The comparisons stand as one, piece by piece.
var usualParts = []namedPart{
	{"answer", "The answer"}, {"readers", "For whom"}, {"findings", "What was found"}, {"printed", "What was printed"}, {comparisons, "The comparison of each piece"},
	{"together", "All pieces together"}, {"panels", "What blind judges said"}, {"settings", "Settings to repeat"}, {"prints", "Each print and its conditions"}, {"references", "References"},
	{"materials", "Materials and dates"}, {"computer", "On the computer"}, {"units", "The very machines"}, {"plates", "Plates and light"}, {"living", "Living with the machines"},
	{"remarks", "What annoys and what pleases"}, {"money", "Money"}, {"claims", "What is claimed"}, {"measured", "How it was measured"}, {"not_tested", "What was not tested"},
	{"open", "What is still open"}, {"disclosure", "Disclosure"}, {"data", "The data"},
}

// comparisons is the key of the comparisons; what stands in each of them has a key that begins with inEach.
const (
	comparisons = "comparison"
	inEach      = "each_"
)

// partsOfEach are what stands in the comparison of each piece.
var partsOfEach = []namedPart{
	{"each_fairness", "How fair each comparison is"}, {"each_plot", "The sides at a glance"}, {"each_figures", "Figures"}, {"each_shows", "What they show"}, {"each_faults", "Faults, by symptom"},
	{"each_photographs", "Photographs, side by side"}, {"each_eyes", "What eyes can tell between them"}, {"each_stress", "What specimens bore"}, {"each_times", "Why their times differ"},
	{"each_fill", "Time of a piece at other fills"}, {"each_sizes", "Sizes"},
}

// arranged are the parts of a write-up, or of the comparison of each piece, in the order of its reviewer.
func arranged(blocks bench.Blocks, within bool) []edition.Part {
	known, kept := usualParts, []edition.Part{}
	if within {
		known = partsOfEach
	}
	for _, b := range blocks {
		if strings.HasPrefix(b.Key, inEach) == within {
			kept = append(kept, edition.Part{Key: b.Key, Out: b.Out})
		}
	}
	return edition.Arrange(keysOf(known), kept)
}

func keysOf(parts []namedPart) (out []string) {
	for _, p := range parts {
		out = append(out, p.Key)
	}
	return out
}

// nameOf is what a part is called; ok where it is one.
func nameOf(key string) (name string, ok bool) {
	for _, list := range [][]namedPart{usualParts, partsOfEach} {
		for _, p := range list {
			if p.Key == key {
				return p.Name, true
			}
		}
	}
	return "", false
}
