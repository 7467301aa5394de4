package calendar

import (
	"testing"
	"time"
	_ "time/tzdata" // zones, whatever the machine has

	"ojime/internal/bench"
)

// Nine o'clock is nine o'clock in the week in which the clocks go back, and the next.
func TestHoursAreThoseOfTheClockOnTheWall(t *testing.T) {
	zone, err := time.LoadLocation("Europe/Berlin")
	if err != nil {
		t.Fatal(err)
	}
	c := Calendar{monday: mondayBefore(time.Date(2026, 10, 25, 13, 0, 0, 0, zone)), settings: bench.UsualSettings}
	if want := time.Date(2026, 10, 19, 0, 0, 0, 0, zone); !c.monday.Equal(want) {
		t.Fatalf("the week began %v, want %v", c.monday, want)
	}
	for _, day := range []int{19, 24, 25, 26, 31} {
		nine := time.Date(2026, 10, day, 9, 0, 0, 0, zone)
		hour := float64(day-19)*24 + 9
		if got := c.hour(nine.UnixMilli()); got != hour {
			t.Errorf("nine on the %d is hour %v, want %v", day, got, hour)
		}
		if got := c.instant(hour); got != nine.UnixMilli() {
			t.Errorf("hour %v is %v, want %v", hour, time.UnixMilli(got).In(zone), nine)
		}
	}
}
