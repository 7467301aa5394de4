package quantity

import (
	"testing"
	"time"
)

func TestDaysAreThoseOfTheCalendar(t *testing.T) {
	for at := time.Date(1896, 1, 1, 0, 0, 0, 0, time.UTC); at.Year() < 2105; at = at.AddDate(0, 0, 1) {
		text := at.Format(time.DateOnly)
		if ms, known := Day(&text); !known || ms != at.UnixMilli() {
			t.Fatalf("%s is %d (%v), want %d", text, ms, known, at.UnixMilli())
		}
	}
}

func TestWhatIsNoDay(t *testing.T) {
	if _, known := Day(nil); known {
		t.Error("no text is no day")
	}
	for _, text := range []string{"", "2026-13-01", "2026-00-10", "2026-02-29", "2026-04-31", "2100-02-29", "2026-1-1", "26-01-01", "2026/01/01", "2026-01-0x", "+026-01-01", "2026-01-32"} {
		if ms, known := Day(&text); known {
			t.Errorf("%q is taken for %d", text, ms)
		}
	}
}

func TestWholeDaysRoundTowardsThePast(t *testing.T) {
	for ms, want := range map[int64]float64{0: 0, DayMS - 1: 0, DayMS: 1, -1: -1, -DayMS: -1, -DayMS - 1: -2} {
		if got := WholeDays(ms); got != want {
			t.Errorf("%d ms are %v days, want %v", ms, got, want)
		}
	}
}
