package publish

import (
	"bytes"
	"context"
	"encoding/csv"
	"fmt"
	"strconv"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

// Tables are the open tables of a review.
var Tables = []string{"settings", "runs", "readings"}

// Table writes one table of a review as CSV: one header row with units in the
// names, an empty cell for what is not known.
func (w *Tasks) Table(ctx context.Context, reviewID, table string) (out []byte, err error) {
	rows := map[string]func([]printing.RunSheet) [][]string{"settings": settingsRows, "runs": runRows, "readings": readingRows}[table]
	if rows == nil {
		return nil, fmt.Errorf("table %q: %w", table, bench.ErrNotFound)
	}
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		sheets, err := reviewRuns(t, reviewID)
		if err != nil {
			return err
		}
		var b bytes.Buffer
		c := csv.NewWriter(&b)
		if err := c.WriteAll(Defused(rows(sheets))); err != nil {
			return err
		}
		out = b.Bytes()
		return nil
	})
	return out, err
}

func settingsRows(sheets []printing.RunSheet) [][]string {
	out := [][]string{{"profile", "machine", "resin", "basis", "sealed_name", "layer_um", "exposure_s", "bottom_layers", "bottom_exposure_s", "transition_layers", "antialiasing", "note"}}
	seen := map[string]bool{}
	for _, s := range sheets {
		p := s.Profile
		if seen[p.ID] {
			continue
		}
		seen[p.ID] = true
		out = append(out, []string{p.Code, s.Machine.Name, s.Resin.Name, p.Basis, p.SealedName, num(&p.LayerUM), num(p.ExposureS),
			strconv.FormatInt(p.BottomLayers, 10), num(p.BottomExposureS), strconv.FormatInt(p.TransitionLayers, 10), p.Antialiasing, p.Note})
	}
	return out
}

func runRows(sheets []printing.RunSheet) [][]string {
	out := [][]string{{"run", "machine", "resin", "profile", "piece", "piece_revision", "copies", "started", "ended", "ended_how", "paused_s", "actual_s",
		"our_estimate_s", "software", "software_estimate_s", "resin_used_g", "room_temp_c", "resin_temp_c", "film_layers", "film_clouded",
		"days_since_level", "moved_since_level", "orientation", "supports", "scale_pct", "wash_s", "cure_s", "surface", "attended_min",
		"whole", "micro_defect", "lost", "pending", "notes"}}
	for _, s := range sheets {
		r := s.Run
		var actual *float64
		ended := ""
		if r.EndedMS != nil {
			actual = r.TookS()
			ended = task.Instant(*r.EndedMS)
		}
		count := map[string]int{}
		for _, p := range s.Specimens {
			count[p.Outcome]++
		}
		out = append(out, []string{r.Code, s.Machine.Name, s.Resin.Name, s.Profile.Code, s.Piece.Name, s.Piece.Revision,
			strconv.FormatInt(r.Copies, 10), task.Instant(r.StartedMS), ended, r.EndedHow, num(&r.PausedS), num(actual), num(r.OurEstimateS), str(r.Software), num(r.SoftwareEstimateS),
			num(r.ResinUsedG), num(r.RoomTempC), num(r.ResinTempC), num(r.FilmLayers), truth(r.FilmClouded), num(r.DaysSinceLevel), truth(r.MovedSinceLevel),
			str(r.Orientation), str(r.Supports), num(r.ScalePct), num(r.WashS), num(r.CureS), str(r.Surface), num(r.AttendedMin),
			strconv.Itoa(count["whole"]), strconv.Itoa(count["micro_defect"]), strconv.Itoa(count["lost"]), strconv.Itoa(count["pending"]), r.Notes})
	}
	return out
}

func readingRows(sheets []printing.RunSheet) [][]string {
	out := [][]string{{"run", "specimen", "feature", "kind", "nominal_mm", "axis", "side", "value_mm", "rung_mm", "intact", "state", "recorded", "counts"}}
	for _, s := range sheets {
		feature := task.ByID(s.Features, func(f bench.Feature) string { return f.ID })
		specimen := task.ByID(s.Specimens, func(p bench.Specimen) string { return p.ID })
		add := func(readings []bench.Reading, counts string) {
			for _, r := range readings {
				f := feature[r.FeatureID]
				out = append(out, []string{s.Run.Code, specimen[r.SpecimenID].Code, f.Name, f.Kind, num(f.NominalMM), str(f.Axis), str(f.Side),
					num(r.ValueMM), num(r.RungMM), truth(r.Intact), str(r.State), task.Instant(r.RecordedMS), counts})
			}
		}
		add(s.Readings, "yes")
		add(s.Corrected, "corrected")
	}
	return out
}

func num(v *float64) string {
	if v == nil {
		return ""
	}
	return strconv.FormatFloat(*v, 'g', -1, 64)
}

func str(v *string) string { return quantity.Or(v, "") }

func truth(v *bool) string {
	if v == nil {
		return ""
	}
	return strconv.FormatBool(*v)
}

// Defused puts an apostrophe before cells that a spreadsheet would run as a formula,
// where they are no number.
func Defused(rows [][]string) [][]string {
	for _, row := range rows {
		for i, cell := range row {
			if cell == "" || !strings.ContainsRune("=+-@\t\r", rune(cell[0])) {
				continue
			}
			if _, err := strconv.ParseFloat(cell, 64); err != nil {
				row[i] = "'" + cell
			}
		}
	}
	return rows
}
