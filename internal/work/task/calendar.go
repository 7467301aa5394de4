package task

import (
	"fmt"
	"math"
	"time"

	"ojime/internal/core/quantity"
)

// dayMS is a day in milliseconds.
const DayMS = 24 * 60 * 60 * 1000

// Days is the whole days from a calendar day to an instant, nil without a day.
func Days(from *string, untilMS int64) *float64 {
	if from == nil {
		return nil
	}
	day, err := time.Parse(time.DateOnly, *from)
	if err != nil {
		return nil // the record refuses such days; an old one counts as not known
	}
	return quantity.Ptr(math.Max(0, math.Floor(float64(untilMS-day.UnixMilli())/DayMS)))
}

// DayOf is the calendar day of an instant, in UTC.
func DayOf(ms int64) string { return time.UnixMilli(ms).UTC().Format(time.DateOnly) }

// Instant is how tables write an instant: RFC 3339, in UTC.
func Instant(ms int64) string { return time.UnixMilli(ms).UTC().Format(time.RFC3339) }

// Clock shows seconds as hours and minutes.
func Clock(s *float64) string {
	minutes := int64(quantity.Round(*s / 60))
	if minutes < 60 {
		return fmt.Sprintf("%d min", minutes)
	}
	return fmt.Sprintf("%d h %02d min", minutes/60, minutes%60)
}
