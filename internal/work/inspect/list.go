package inspect

import (
	"context"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/metrology"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/printing"
)

// mostPlates bounds the list of plates: the newest.
const mostPlates = 60

// PlateToRead is a print in the list of what is to be read: how many of its sizes, rungs and
// checkpoints were read on copies that still have their detail, how many copies nobody judged
// yet, what was rated and photographed, and the open questions that ask for it.
type PlateToRead struct {
	ID          string           `json:"id"`
	Code        string           `json:"code"`
	Printed     string           `json:"printed"`
	Machine     string           `json:"machine"`
	Resin       string           `json:"resin"`
	StartedMS   int64            `json:"started_ms"`
	Copies      int64            `json:"copies"`
	Unjudged    int64            `json:"unjudged"`
	Sizes       metrology.ToRead `json:"sizes"`
	Rungs       metrology.ToRead `json:"rungs"`
	Checkpoints metrology.ToRead `json:"checkpoints"`
	Ratings     int              `json:"ratings"`
	Photographs int              `json:"photographs"`
	Questions   []string         `json:"questions"`
	// NextSpecimenID is the first copy that is not read to its end; empty where all are.
	NextSpecimenID string `json:"next_specimen_id"`
}

func (p PlateToRead) order() metrology.PlateToRead {
	return metrology.PlateToRead{StartedMS: p.StartedMS, Left: p.Sizes.Left() + p.Rungs.Left() + p.Checkpoints.Left() + p.Unjudged, Questions: len(p.Questions)}
}

// Plates lists the newest prints that ended, in the order in which they are worth reading.
func (w *Tasks) Plates(ctx context.Context) (out []PlateToRead, err error) {
	out = []PlateToRead{}
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		runs, err := t.RunLines(store.RunFilter{Most: mostPlates})
		if err != nil {
			return err
		}
		ids := []string{}
		for _, r := range runs {
			if r.EndedMS != nil {
				ids = append(ids, r.ID)
			}
		}
		sheets, err := printing.NewReader(t).Sheets(ids...)
		if err != nil {
			return err
		}
		reviews, err := t.Reviews()
		if err != nil {
			return err
		}
		names, err := kit.KitNames(t)
		if err != nil {
			return err
		}
		tallies, err := t.TalliesOfRuns(ids)
		if err != nil {
			return err
		}
		for _, s := range sheets {
			plate := plateToRead(s, reviews)
			plate.Printed = printing.PrintedWords(printing.PrintedOf(tallies[s.Run.ID], names))
			out = append(out, plate)
		}
		slices.SortStableFunc(out, func(a, b PlateToRead) int { return metrology.CompareToRead(a.order(), b.order()) })
		return nil
	})
	return out, err
}

// plateToRead counts what was read of a print and what is still to be.
func plateToRead(s *printing.RunSheet, reviews []bench.Review) PlateToRead {
	out := PlateToRead{ID: s.Run.ID, Code: s.Run.Code, Machine: s.Machine.Name, Resin: s.Resin.Name, StartedMS: s.Run.StartedMS, Ratings: len(s.Ratings), Photographs: len(s.Photographs), Questions: openQuestions(s, reviews)}
	type place struct {
		specimen, feature string
		rung              float64
	}
	read := map[place]bool{}
	for _, r := range s.Readings {
		at := place{r.SpecimenID, r.FeatureID, 0}
		if r.RungMM != nil {
			at.rung = *r.RungMM
		}
		read[at] = true
	}
	for _, p := range s.Specimens {
		if !p.Judged() {
			out.Unjudged++
		}
		if p.SetAside() {
			continue
		}
		out.Copies++
		left := false
		count := func(into *metrology.ToRead, at place) {
			into.Of++
			if read[at] {
				into.Done++
			} else {
				left = true
			}
		}
		for _, f := range s.Features {
			if f.RetiredMS != nil || f.PieceID != p.PieceID {
				continue
			}
			switch f.Kind {
			case "dimension":
				count(&out.Sizes, place{p.ID, f.ID, 0})
			case "checkpoint":
				count(&out.Checkpoints, place{p.ID, f.ID, 0})
			default:
				for _, rung := range f.RungsMM {
					count(&out.Rungs, place{p.ID, f.ID, rung})
				}
			}
		}
		if left && out.NextSpecimenID == "" {
			out.NextSpecimenID = p.ID
		}
	}
	return out
}

// openQuestions are those of reviews without a verdict that ask for a print: for its machine,
// its resin and a piece on it, and that do not leave it out.
func openQuestions(s *printing.RunSheet, reviews []bench.Review) []string {
	out := []string{}
	for _, v := range reviews {
		asked := slices.Contains(v.MachineIDs, s.Run.MachineID) && slices.Contains(v.ResinIDs, s.Run.ResinID) &&
			slices.ContainsFunc(s.Pieces, func(p bench.Piece) bool { return slices.Contains(v.PieceIDs, p.ID) })
		if _, left := v.LeftOut.Reason(s.Run.ID); asked && !left && v.Verdict == "" {
			out = append(out, v.Question)
		}
	}
	return out
}
