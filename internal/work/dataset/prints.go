package dataset

import (
	"math"
	"strconv"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/work/kit"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

func settingsRows(of Source) [][]string {
	sheets := of.Sheets
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

func runRows(of Source) [][]string {
	codes, turns := CodesOf(of.Sheets), of.Plan.Turns()
	out := [][]string{{"run", "machine", "resin", "profile", "settings", "pieces", "copies", "started", "ended", "ended_how", "stopped_layer", "paused_s", "dial_changed", "actual_s",
		"our_estimate_s", "software", "software_estimate_s", "resin_used_g", "room_temp_c", "resin_temp_c", "humidity_pct", "heater_on", "room_course", "outside_stated_window", "light_least_pct", "light_mean_pct", "light_most_pct", "film_layers", "film_layers_at_least", "light_h", "film_clouded",
		"days_since_level", "moved_since_level", "level_off", "panel", "firmware", "film_type", "plate_surface", "room", "accessories", "observed", "orientation", "supports", "wash_s", "cure_s", "surface",
		"attended_min", "whole", "micro_defect", "micro_printed", "lost", "failed", "by_machine", "by_resin", "accidents", "pending", "left_out", "plan_turn", "notes", "again_of", "again_change"}}
	for _, s := range of.Sheets {
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
		if n, planned := turns[r.ID]; planned {
			turn = count(n)
		}
		leftOut, _ := of.Review.LeftOut.Reason(r.ID)
		out = append(out, []string{r.Code, s.Machine.Name, s.Resin.Name, s.Profile.Code, s.Settings, s.Printed,
			count(r.Copies), say.Instant(r.StartedMS), ended, r.EndedHow, whole(r.StoppedLayer), num(&r.PausedS), truth(&r.DialChanged), num(actual), num(r.OurEstimateS), str(r.Software), num(r.SoftwareEstimateS),
			num(r.ResinUsedG), num(r.RoomTempC), num(r.ResinTempC), num(r.HumidityPct), truth(r.HeaterOn), s.Room.Says, truth(s.RoomOutside), num(light.least), num(light.mean), num(light.most), num(c.Film.Amount), num(&c.Film.AtLeast), num(c.Light.Amount), truth(r.FilmClouded), num(c.Level.Days), truth(c.Level.Moved), truth(r.LevelOff),
			c.Fitted.Panel, c.Fitted.Firmware, c.Fitted.FilmType, c.Fitted.PlateSurface, c.Fitted.Room, strings.Join(c.Fitted.Accessories, "; "), r.Observed,
			str(r.Orientation), str(r.Supports), num(r.WashS), num(r.CureS), str(r.Surface), num(r.AttendedMin),
			count(n.Whole), count(n.Micro), count(n.MicroPrinted), count(n.Lost), count(n.Failed), count(n.ByMachine), count(n.ByResin), count(n.Accidents), count(n.Pending), leftOut, turn, r.Notes, codes[str(r.AgainOfID)], r.AgainChange})
	}
	return out
}

// specimenLines list every specimen with its piece and, line by line, its defects: one line
// without, so that none is missing.
func specimenLines(of Source) *lines {
	var parts []*lines
	for _, s := range of.Sheets {
		parts = append(parts, of.linesOfPrint(s).specimens)
	}
	return of.long("specimens", []string{"run", "specimen", "piece", "piece_revision", "scale_pct", "exposure_s", "outcome", "failed", "failed_by", "micro_printed", "accident", "swapped_with", "stage", "rework_min", "note",
		"symptom", "severity", "began_layer", "began_mm", "origin", "fault", "defect_note", "defect_photographs", "taken_back", "taken_back_why"}, parts)
}

// specimenLinesOf are those of one print.
func specimenLinesOf(s *printing.RunSheet) *lines {
	out, piece := &lines{}, task.ByID(s.Pieces, func(p bench.Piece) string { return p.ID })
	for _, p := range s.Specimens {
		copied := cellsOf(s.Run.Code, p.Code, piece[p.PieceID].Name, piece[p.PieceID].Revision, num(&p.ScalePct), num(p.ExposureS), p.Outcome, truth(&p.Failed), p.FailedBy,
			truth(&p.MicroPrinted), truth(&p.Accident), p.SwappedWith, s.StageAt(p.ID, math.MaxInt64), num(bench.ReworkOf(s.Stages, p.ID)), p.Note)
		if len(p.Defects) == 0 {
			out.cells(copied)
			out.cells([]byte(",,,,,,,,,"))
			out.end()
		}
		for _, d := range p.Defects {
			back := ""
			if d.TakenBackMS != nil {
				back = say.Instant(*d.TakenBackMS)
			}
			out.cells(copied)
			out.cells(cellsOf(d.Symptom, d.Severity, whole(d.BeganLayer), num(d.BeganMM), d.Origin, d.Fault, d.Note, strings.Join(showing(s.Photographs, d.ID), "; "), back, d.TakenBackWhy))
			out.end()
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
