package dataset

import (
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/store"
	"ojime/internal/work/printing"
)

// printLines are the lines of one print, or reference, in the two tables that are long: they are kept until it is read or judged
// anew, or what stands beside that changes.
type printLines struct{ specimens, readings *lines }

// printKey is under which they are kept, printedFrom what they are written from.
type (
	printKey    struct{ runID string }
	printedFrom struct {
		copies          store.List[bench.Specimen]
		stages          store.List[bench.SpecimenStage]
		read, corrected store.List[bench.Reading]
		beside          string
	}
)

func (of Source) linesOfPrint(s *printing.RunSheet) printLines {
	from := printedFrom{store.ListOf(s.Specimens), store.ListOf(s.Stages), store.ListOf(s.Readings), store.ListOf(s.Corrected), of.besideOf(s)}
	return store.Derived(of.t, printKey{s.Run.ID}, from, func() printLines { return printLines{specimenLinesOf(s), readingLinesOf(s)} })
}

// besideOf tells all else that the lines of a print say: of the print, of its pieces and what is measured on them, of
// photographs of defects, and of which readings the instrument is in doubt.
func (of Source) besideOf(s *printing.RunSheet) string {
	parts := append(make([]string, 0, 64), s.Run.Code, whole(s.Run.EndedMS), num(s.Run.WashS), num(s.Run.CureS))
	for _, p := range s.Pieces {
		parts = append(parts, p.ID, p.Name, p.Revision, of.measuredOn[p.ID])
	}
	for _, p := range s.Photographs {
		if p.DefectID != nil {
			parts = append(parts, p.Code, *p.DefectID)
		}
	}
	return strings.Join(append(parts, s.Doubtful...), "\n")
}

// measuredOn says of each piece what is measured on it, as the lines of readings have it.
func measuredOn(sheets []*printing.RunSheet) map[string]string {
	out := map[string]string{}
	for _, s := range sheets {
		fresh := map[string][]string{}
		for _, f := range s.Features {
			if _, known := out[f.PieceID]; !known {
				fresh[f.PieceID] = append(fresh[f.PieceID], f.ID, string(cellsOfFeature(f)))
			}
		}
		for piece, features := range fresh {
			out[piece] = strings.Join(features, "\n")
		}
	}
	return out
}

// longKey is under which a table of all prints is kept.
type longKey struct{ reviewID, table string }

// long is a table of the lines of all prints. While those are the same the table is, too.
func (of Source) long(table string, head []string, parts []*lines) *lines {
	return store.DerivedOf(of.t, longKey{of.Review.ID, table}, parts, func() *lines {
		out, size := newLines(head...), 0
		for _, p := range parts {
			size += len(p.text)
		}
		out.text = slices.Grow(out.text, size)
		for _, p := range parts {
			out.add(p)
		}
		return out
	})
}
