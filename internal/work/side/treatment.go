package side

import (
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/core/claims"
	"ojime/internal/core/quantity"
	"ojime/internal/core/setup"
	"ojime/internal/say"
	"ojime/internal/work/printing"
)

// Rose is how fast prints rose, held against the speed that the maker of the machine claims.
type Rose struct {
	setup.Speed
	ClaimedMMH *float64 `json:"claimed_mm_h"`
	Verdict    string   `json:"claim_verdict" enum:",met,not_met,cannot_tell"`
	Says       string   `json:"says"`
}

// treatment fills in how a side's prints were washed and cured, how fast they rose, and what
// cold or heat did.
func (s Prints) treatment(out *Side) {
	var washed, cured []setup.Treated
	var warm []setup.WarmPrint
	for j, sheet := range s.Sheets {
		washed = append(washed, setup.Treated{TookS: sheet.Run.WashS, AskedS: sheet.Resin.StatedWashS})
		cured = append(cured, setup.Treated{TookS: sheet.Run.CureS, AskedS: sheet.Resin.StatedCureS})
		warm = append(warm, setup.WarmPrint{Kind: sheet.Printed + sheet.Profile.ID, TempC: setup.TempC(sheet.Run.ResinTempC, sheet.Run.RoomTempC), Window: sheet.Resin.Window(), TookS: s.Prints[j].TookS, Counts: s.Prints[j].Counts})
	}
	out.Warmth, out.PerDegree = setup.ByTemperature(warm), setup.TimePerDegree(warm)
	out.OddsPerDegree = setup.FailuresPerDegree(warm)
	out.Washed, out.Cured = setup.AgainstLabel(washed), setup.AgainstLabel(cured)
	out.Rose = RoseOf(s.Machine, s.Sheets)
}

// RoseOf is how fast prints of a machine rose; nil where none has both a time and layers.
func RoseOf(m bench.Machine, sheets []*printing.RunSheet) *Rose {
	speed := SpeedOf(sheets)
	if speed == nil {
		return nil
	}
	return roseOf(*speed, m.ClaimedMMH)
}

// SpeedOf is how fast prints rose, nil where none has a height and a time.
func SpeedOf(sheets []*printing.RunSheet) *setup.Speed {
	var raised []setup.Raised
	for _, sheet := range sheets {
		r := setup.Raised{TookS: sheet.Run.Took().S}
		if n := sheet.Run.Layers; n > 0 {
			r.HeightMM = quantity.Ptr(float64(n) * sheet.Profile.LayerUM / 1000)
		}
		raised = append(raised, r)
	}
	return setup.SpeedOf(raised)
}

func roseOf(speed setup.Speed, claimed *float64) *Rose {
	r := Rose{Speed: speed, ClaimedMMH: claimed, Says: say.Figure(speed.MMH) + " mm/h"}
	if speed.CI != nil {
		r.Says += fmt.Sprintf(" (%s)", say.Interval(speed.CI[0], speed.CI[1], "mm/h"))
	}
	r.Says += " over " + say.Counted(speed.Prints, "print")
	if claimed != nil {
		r.Verdict = claims.AtLeast(*claimed, speed.CI)
		r.Says += fmt.Sprintf("; %s mm/h claimed: %s", say.Figure(*claimed), claims.Words[r.Verdict])
	}
	return &r
}
