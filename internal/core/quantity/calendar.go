package quantity

import (
	"math"
	"strconv"
)

// DayMS is a day in milliseconds.
const DayMS = 24 * 60 * 60 * 1000

// WholeDays are the whole days in a span of milliseconds, rounded towards the past.
func WholeDays(ms int64) float64 { return math.Floor(float64(ms) / DayMS) }

// Day is the first instant, in UTC milliseconds, of a calendar day written
// YYYY-MM-DD; not known for nil and for what is no such day. Source: Howard Hinnant,
// days_from_civil (public domain), for the proleptic Gregorian calendar.
func Day(text *string) (ms int64, known bool) {
	if text == nil || len(*text) != len("2006-01-02") || (*text)[4] != '-' || (*text)[7] != '-' {
		return 0, false
	}
	var number [3]int64
	for i, part := range []string{(*text)[:4], (*text)[5:7], (*text)[8:]} {
		n, err := strconv.ParseUint(part, 10, 16)
		if err != nil {
			return 0, false
		}
		number[i] = int64(n)
	}
	year, month, day := number[0], number[1], number[2]
	if month < 1 || month > 12 || day < 1 || day > daysIn(year, month) {
		return 0, false
	}
	if month <= 2 {
		year--
	}
	era := year / 400
	yearOfEra := year - era*400
	dayOfYear := (153*((month+9)%12)+2)/5 + day - 1
	dayOfEra := yearOfEra*365 + yearOfEra/4 - yearOfEra/100 + dayOfYear
	return (era*146097 + dayOfEra - 719468) * DayMS, true
}

func daysIn(year, month int64) int64 {
	switch {
	case month == 2 && year%4 == 0 && (year%100 != 0 || year%400 == 0):
		return 29
	case month == 2:
		return 28
	case month == 4, month == 6, month == 9, month == 11:
		return 30
	}
	return 31
}
