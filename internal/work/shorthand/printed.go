package shorthand

import (
	"fmt"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/outcome"
	"ojime/internal/core/shorthand"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/printing"
)

// printed is a plate that was printed as planned, and what became of its copies: it ends now, and
// began as long before as it took.
func (w *Tasks) printed(t *store.Tx, line shorthand.Line) (meaning, error) {
	plate, copies, holds, err := planned(t, line.PlateID)
	if err != nil {
		return meaning{}, err
	}
	says := fmt.Sprintf("%s (%s), as planned: %s after %s, now", plate.Code, holds, line.Ended, say.Duration(*line.TookS))
	if line.Whole {
		_, words, err := wholeBut(copies, line.But)
		if err != nil {
			return meaning{}, err
		}
		says += ": " + words
	}
	keep := func(t *store.Tx, confirmed bool) error {
		now := w.NowMS()
		runID, err := w.printing.PrintedAsPlanned(t, plate.ID, now-int64(*line.TookS*1000), now, line.Ended, confirmed)
		if err != nil || !line.Whole {
			return err
		}
		sheet, err := printing.ReadRunSheet(t, runID)
		if err != nil {
			return err
		}
		judged, _, err := wholeBut(sheet, line.But)
		if err != nil {
			return err
		}
		return w.inspect.JudgeIn(t, runID, judged)
	}
	return meaning{Understood: Understood{says + ".", "run", ""}, keep: keep, plateID: plate.ID}, nil
}

// planned is a plate with its copies as a print of it will have them, and what it holds in words.
func planned(t *store.Tx, plateID string) (plate bench.Plate, copies printing.RunSheet, holds string, err error) {
	if plate, err = t.Plate(plateID); err != nil {
		return plate, copies, "", err
	}
	m, err := t.Machine(plate.MachineID)
	if err != nil {
		return plate, copies, "", err
	}
	placements, err := t.PlacementsOfPlate(plateID)
	if err != nil {
		return plate, copies, "", err
	}
	copies.Run.Code = plate.Code
	of := map[string]int64{}
	var order []string
	for i, p := range placements {
		copies.Specimens = append(copies.Specimens, bench.Specimen{Copy: int64(i + 1), Outcome: outcome.Pending})
		piece, err := t.Piece(p.PieceID)
		if err != nil {
			return plate, copies, "", err
		}
		if of[piece.Name] == 0 {
			order = append(order, piece.Name)
		}
		of[piece.Name]++
	}
	words := make([]string, len(order))
	for i, name := range order {
		words[i] = say.Copies(of[name], name)
	}
	return plate, copies, strings.Join(words, ", ") + " on " + m.Name, nil
}
