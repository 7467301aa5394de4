package evidence

import (
	"math"

	"ojime/internal/core/quantity"
)

// PrintsToPlan is how many prints a side it takes to see a difference of failure rates
// that matters (0 to 1, exclusive) with so many copies on each print: as prints_needed of
// Prints, from what is on record before the prints are made. How far copies of one print
// share its fate is taken from the record where it tells (the design effect's correlation,
// (D − 1)/(n̄ − 1)), and else assumed. Nil where no rate lies so far from the one on record.
func PrintsToPlan(record []PrintCount, copies int64, matters float64) (*int64, error) {
	var c quantity.Checks
	c.CountAbove("copies", copies)
	c.Above("matters", matters)
	if matters >= 1 {
		c.Fail("matters", "is %v; a difference of rates that matters lies between 0 and 1", matters)
	}
	if len(record) > 0 {
		checkPrints(&c, "record", record)
	}
	if c.Err() != nil {
		return nil, c.Err()
	}
	correlation, s := assumedCorrelation, PrintsSide{}
	if len(record) > 0 {
		var told PrintsResult
		s = told.side(record)
		if perPrint := float64(s.Specimens) / float64(s.Prints); perPrint > 1 {
			correlation = math.Min(1, (s.DesignEffect-1)/(perPrint-1))
		}
	}
	p1 := float64(s.Failed+1) / float64(s.Specimens+2)
	return printsFor(p1, matters, 1+correlation*float64(copies-1), float64(copies)), nil
}
