package firstdays

import (
	"fmt"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
)

// FirstGood is the way from the box to the first print of a machine that came out whole: which
// print that was, at which attempt, how many days after the unit came, and how many minutes someone
// was there for it: unpacking, setting up and the prints up to then. Untold counts those of whose
// minutes nothing is noted, so that the sum is at least so much. Code is empty while none came out
// whole.
type FirstGood struct {
	Code        string   `json:"code"`
	RunID       string   `json:"run_id"`
	Attempts    int64    `json:"attempts"`
	Days        *float64 `json:"days"`
	AttendedMin float64  `json:"attended_min"`
	Untold      int64    `json:"untold"`
	Says        string   `json:"says"`
}

// FirstGoodOf finds it among the prints of a machine, in the order in which they began; nil where
// none has ended and nothing is noted of the setting up.
func FirstGoodOf(t *store.Tx, machineID string, u *bench.UnitFile) (*FirstGood, error) {
	runs, err := t.RunsToFirstWhole(machineID)
	if err != nil {
		return nil, err
	}
	var out FirstGood
	for _, r := range runs {
		out.Attempts++
		if r.AttendedMin == nil {
			out.Untold++
		} else {
			out.AttendedMin += *r.AttendedMin
		}
		if r.Shape == "whole" {
			out.Code, out.RunID = r.Code, r.ID
			out.Days = daysSince(u, r.StartedMS)
			break
		}
	}
	if out.Attempts == 0 && (u == nil || (u.UnpackMin == nil && u.SetUpBy == "")) {
		return nil, nil
	}
	if u != nil && u.UnpackMin != nil {
		out.AttendedMin += *u.UnpackMin
	} else {
		out.Untold++
	}
	out.Says = out.words(u)
	return &out, nil
}

// daysSince is how many days after a unit came something was; nil where that is not on record.
func daysSince(u *bench.UnitFile, atMS int64) *float64 {
	if u == nil {
		return nil
	}
	came, known := quantity.Day(u.ReceivedOn)
	day, _ := quantity.Day(quantity.Ptr(time.UnixMilli(atMS).Format(time.DateOnly)))
	if !known || day < came {
		return nil
	}
	return quantity.Ptr(quantity.WholeDays(day - came))
}

func (f FirstGood) words(u *bench.UnitFile) string {
	text := fmt.Sprintf("nothing came out whole yet, after %s", say.Counted(f.Attempts, "print"))
	if f.Attempts == 0 {
		text = "nothing was printed yet"
	}
	if f.Code != "" {
		text = fmt.Sprintf("%s came out whole, at attempt %d", f.Code, f.Attempts)
		if f.Days != nil {
			text += fmt.Sprintf(", %s after it came", say.Counted(int64(*f.Days), "day"))
		}
	}
	least := ""
	if f.Untold > 0 {
		least = "at least "
	}
	text += fmt.Sprintf("; %s%s min of attention", least, say.Figure(f.AttendedMin))
	if u != nil && u.UnpackMin != nil {
		text += fmt.Sprintf(", %s of them unpacking and setting up", say.Figure(*u.UnpackMin))
	}
	if u != nil && u.SetUpBy != "" {
		text += ", by " + u.SetUpBy
	}
	return text
}
