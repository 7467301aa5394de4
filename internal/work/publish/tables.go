package publish

import (
	"bytes"
	"context"
	"encoding/csv"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/core/rating"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/ballots"
	"ojime/internal/work/experiment"
	"ojime/internal/work/findings"
	"ojime/internal/work/inspect"
	"ojime/internal/work/kit"
	"ojime/internal/work/ledger"
	"ojime/internal/work/printing"
	"ojime/internal/work/reviews"
	"ojime/internal/work/task"
)

// Tables are the open tables of a review.
var Tables = []string{"settings", "runs", "specimens", "readings", "ratings", "photographs", "stress", "forms", "machine-ratings", "sliced-files", "room-readings", "remarks", "ballots", "findings", "claims"}

// rowsOf writes the rows of each table.
var rowsOf = map[string]func(published) [][]string{"settings": settingsRows, "runs": runRows, "specimens": specimenRows, "readings": readingRows, "ratings": ratingRows, "photographs": photographRows, "stress": stressRows, "forms": formRows, "machine-ratings": machineRatingRows, "sliced-files": slicedRows, "room-readings": roomRows, "remarks": remarkRows, "ballots": ballotRows, "findings": findingRows, "claims": claimRows}

// Table writes one table of a review as CSV: one header row with units in the
// names, an empty cell for what is not known.
func (w *Tasks) Table(ctx context.Context, reviewID, table string) (out []byte, err error) {
	if rowsOf[table] == nil {
		return nil, fmt.Errorf("table %q: %w", table, bench.ErrNotFound)
	}
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		scales, err := inspect.AllScales(t)
		if err != nil {
			return err
		}
		review, err := t.Review(reviewID)
		if err != nil {
			return err
		}
		setups, err := reviews.SetUps(t, review)
		if err != nil {
			return err
		}
		reader := printing.NewReader(t)
		sheets, err := reviewRuns(reader, review, setups)
		if err != nil {
			return err
		}
		plan, err := experiment.PlanOf(t, reviewID)
		if err != nil {
			return err
		}
		references, err := reader.Sheets(review.ReferenceIDs...)
		if err != nil {
			return err
		}
		living, err := livingOf(t, setups)
		if err != nil {
			return err
		}
		sliced, err := slicedOf(t, sheets)
		if err != nil {
			return err
		}
		panels, err := ballots.Closed(t, reviewID)
		if err != nil {
			return err
		}
		of := published{review: review, sheets: sheets, references: references, turns: plan.Turns(), scales: scales, living: living, sliced: sliced, panels: panels}
		if table == "findings" { // the comparisons behind them take their time
			if of.findings, err = findings.SheetOf(t, reviewID); err != nil {
				return err
			}
		}
		if table == "claims" {
			contests, err := reviews.Contests(t, reader, review, setups)
			if err != nil {
				return err
			}
			if of.claims, err = ledger.Of(t, reader, review, setups, contests, w.NowMS()); err != nil {
				return err
			}
		}
		out, err = csvOf(rowsOf[table](of))
		return err
	})
	return out, err
}

// csvOf is a table as CSV.
func csvOf(rows [][]string) ([]byte, error) {
	var b bytes.Buffer
	err := csv.NewWriter(&b).WriteAll(Defused(rows))
	return b.Bytes(), err
}

// published is what tables are written from: the prints of a review, and which print of
// its machine each was in the plan, by run.
type published struct {
	review bench.Review
	sheets []printing.RunSheet
	// references have readings as prints do, and no rows of runs and specimens.
	references []printing.RunSheet
	turns      map[string]int64
	scales     []rating.Scale
	living     []lived
	sliced     []slicedFile
	panels     []ballots.Shown
	findings   findings.FindingsSheet
	claims     ledger.LedgerSheet
}

func settingsRows(of published) [][]string {
	sheets := of.sheets
	out := [][]string{{"profile", "name", "machine", "resin", "basis", "sealed_name", "adjusted_from", "layer_um", "exposure_s", "bottom_layers", "bottom_exposure_s", "transition_layers",
		"lift", "retract", "release_s", "wait_before_s", "wait_after_s", "wait_lift_s", "light_power_pct", "antialiasing", "options", "note"}}
	code := map[string]string{}
	for _, s := range sheets {
		code[s.Profile.ID] = s.Profile.Code
	}
	seen := map[string]bool{}
	for _, s := range sheets {
		p := s.Profile
		if seen[p.ID] {
			continue
		}
		seen[p.ID] = true
		out = append(out, []string{p.Code, p.Name, s.Machine.Name, s.Resin.Name, p.Basis, p.SealedName, code[quantity.Or(p.ParentID, "")], num(&p.LayerUM), num(p.ExposureS),
			whole(p.BottomLayers), num(p.BottomExposureS), whole(p.TransitionLayers), kit.MovesWords(p.Lift), kit.MovesWords(p.Retract), num(p.ReleaseS), num(p.WaitBeforeS), num(p.WaitAfterS),
			num(p.WaitLiftS), num(p.LightPowerPct), p.Antialiasing, kit.OptionWords(p.Options), p.Note})
	}
	return out
}

func runRows(of published) [][]string {
	codes := codesOf(of.sheets)
	out := [][]string{{"run", "machine", "resin", "profile", "settings", "pieces", "copies", "started", "ended", "ended_how", "stopped_layer", "paused_s", "dial_changed", "actual_s",
		"our_estimate_s", "software", "software_estimate_s", "resin_used_g", "room_temp_c", "resin_temp_c", "humidity_pct", "heater_on", "room_course", "outside_stated_window", "light_least_pct", "light_mean_pct", "light_most_pct", "film_layers", "film_layers_at_least", "light_h", "film_clouded",
		"days_since_level", "moved_since_level", "level_off", "panel", "firmware", "film_type", "plate_surface", "room", "accessories", "observed", "orientation", "supports", "wash_s", "cure_s", "surface",
		"attended_min", "whole", "micro_defect", "micro_printed", "lost", "failed", "by_machine", "by_resin", "accidents", "pending", "left_out", "plan_turn", "notes", "again_of", "again_change"}}
	for _, s := range of.sheets {
		r, c := s.Run, s.Condition
		var actual *float64
		ended := ""
		if r.EndedMS != nil {
			actual = r.TookS()
			ended = say.Instant(*r.EndedMS)
		}
		count := func(n int64) string { return strconv.FormatInt(n, 10) }
		n := s.Counts
		var light struct{ least, mean, most *float64 }
		if l := s.Light; l != nil {
			light.least, light.mean, light.most = &l.LeastPct, &l.MeanPct, &l.MostPct
		}
		turn := ""
		if n, planned := of.turns[r.ID]; planned {
			turn = count(n)
		}
		leftOut, _ := of.review.LeftOut.Reason(r.ID)
		out = append(out, []string{r.Code, s.Machine.Name, s.Resin.Name, s.Profile.Code, s.Settings, s.Printed,
			count(r.Copies), say.Instant(r.StartedMS), ended, r.EndedHow, whole(r.StoppedLayer), num(&r.PausedS), truth(&r.DialChanged), num(actual), num(r.OurEstimateS), str(r.Software), num(r.SoftwareEstimateS),
			num(r.ResinUsedG), num(r.RoomTempC), num(r.ResinTempC), num(r.HumidityPct), truth(r.HeaterOn), s.Room.Says, truth(s.RoomOutside), num(light.least), num(light.mean), num(light.most), num(c.Film.Amount), num(&c.Film.AtLeast), num(c.Light.Amount), truth(r.FilmClouded), num(c.Level.Days), truth(c.Level.Moved), truth(r.LevelOff),
			c.Fitted.Panel, c.Fitted.Firmware, c.Fitted.FilmType, c.Fitted.PlateSurface, c.Fitted.Room, strings.Join(c.Fitted.Accessories, "; "), r.Observed,
			str(r.Orientation), str(r.Supports), num(r.WashS), num(r.CureS), str(r.Surface), num(r.AttendedMin),
			count(n.Whole), count(n.Micro), count(n.MicroPrinted), count(n.Lost), count(n.Failed), count(n.ByMachine), count(n.ByResin), count(n.Accidents), count(n.Pending), leftOut, turn, r.Notes, codes[str(r.AgainOfID)], r.AgainChange})
	}
	return out
}

// specimenRows lists every specimen with its piece and, row by row, its defects: one row
// without, so that none is missing.
func specimenRows(of published) [][]string {
	out := [][]string{{"run", "specimen", "piece", "piece_revision", "scale_pct", "exposure_s", "outcome", "failed", "failed_by", "micro_printed", "accident", "swapped_with", "stage", "rework_min", "note",
		"symptom", "severity", "began_layer", "began_mm", "origin", "fault", "defect_note", "defect_photographs", "taken_back", "taken_back_why"}}
	for _, s := range of.sheets {
		piece := task.ByID(s.Pieces, func(p bench.Piece) string { return p.ID })
		for _, p := range s.Specimens {
			row := []string{s.Run.Code, p.Code, piece[p.PieceID].Name, piece[p.PieceID].Revision, num(&p.ScalePct), num(p.ExposureS), p.Outcome, truth(&p.Failed), p.FailedBy,
				truth(&p.MicroPrinted), truth(&p.Accident), p.SwappedWith, s.StageAt(p.ID, math.MaxInt64), num(bench.ReworkOf(s.Stages, p.ID)), p.Note}
			if len(p.Defects) == 0 {
				out = append(out, append(row, "", "", "", "", "", "", "", "", "", ""))
			}
			for _, d := range p.Defects {
				back := ""
				if d.TakenBackMS != nil {
					back = say.Instant(*d.TakenBackMS)
				}
				out = append(out, append(slices.Clone(row), d.Symptom, d.Severity, whole(d.BeganLayer), num(d.BeganMM), d.Origin, d.Fault, d.Note, strings.Join(showing(s.Photographs, d.ID), "; "), back, d.TakenBackWhy))
			}
		}
	}
	return out
}

// showing are the codes of the photographs of a defect.
func showing(photographs []bench.Pictured, defectID string) (codes []string) {
	for _, p := range photographs {
		if p.DefectID != nil && *p.DefectID == defectID {
			codes = append(codes, p.Code)
		}
	}
	return codes
}

func readingRows(of published) [][]string {
	out := [][]string{{"run", "specimen", "piece", "feature", "kind", "nominal_mm", "axis", "face", "value_mm", "rung_mm", "intact", "state", "recorded", "stage", "instrument_in_doubt", "counts"}}
	for _, s := range slices.Concat(of.sheets, of.references) {
		feature := task.ByID(s.Features, func(f bench.Feature) string { return f.ID })
		piece := task.ByID(s.Pieces, func(p bench.Piece) string { return p.ID })
		specimen := task.ByID(s.Specimens, func(p bench.Specimen) string { return p.ID })
		add := func(readings []bench.Reading, counts string) {
			for _, r := range readings {
				f := feature[r.FeatureID]
				counts := counts
				if r.TakenBackMS != nil {
					counts = "taken back: " + r.TakenBackWhy
				}
				out = append(out, []string{s.Run.Code, specimen[r.SpecimenID].Code, piece[f.PieceID].Name, f.Name, f.Kind, num(f.NominalMM), str(f.Axis), str(f.Face),
					num(r.ValueMM), num(r.RungMM), truth(r.Intact), str(r.State), say.Instant(r.RecordedMS), s.StageAt(r.SpecimenID, r.RecordedMS), map[bool]string{true: "yes"}[slices.Contains(s.Doubtful, r.ID)], counts})
			}
		}
		add(s.Readings, "yes")
		add(s.Corrected, "corrected")
	}
	return out
}

// ratingRows say of each score what its step means and how it was judged.
func ratingRows(of published) [][]string {
	out := [][]string{{"run", "specimen", "piece", "scale", "score", "anchor", "station", "magnification", "stage", "light", "rater", "rated", "counts", "note_of_sitting"}}
	scales := task.ByID(of.scales, func(s rating.Scale) string { return s.Key })
	for _, s := range slices.Concat(of.sheets, of.references) {
		piece := task.ByID(s.Pieces, func(p bench.Piece) string { return p.ID })
		specimen := task.ByID(s.Specimens, func(p bench.Specimen) string { return p.ID })
		add := func(ratings []bench.Rated, counts string) {
			for _, r := range ratings {
				counts, p, scale := counts, specimen[r.Specimen()], scales[r.Scale]
				if r.TakenBackMS != nil {
					counts = "taken back: " + r.TakenBackWhy
				}
				out = append(out, []string{s.Run.Code, p.Code, piece[p.PieceID].Name, scale.Name, whole(&r.Score), scale.Anchors[r.Score], r.Sitting.Station, num(r.Sitting.Magnification), r.Sitting.Stage,
					r.Sitting.Light, r.Sitting.Rater, say.Instant(r.AtMS), counts, r.Sitting.Note})
			}
		}
		add(s.Ratings, "yes")
		add(s.Rerated, "corrected")
	}
	return out
}

func num(v *float64) string {
	if v == nil {
		return ""
	}
	return strconv.FormatFloat(*v, 'g', -1, 64)
}

func whole(v *int64) string {
	if v == nil {
		return ""
	}
	return strconv.FormatInt(*v, 10)
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
