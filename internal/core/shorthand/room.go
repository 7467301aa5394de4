package shorthand

import (
	"fmt"
	"strconv"
	"strings"
)

// readRoom reads what a room has: "22,5", "22.5 °C 48 %", then the print or the machine that prints.
func readRoom(words []string, names Names) (Line, error) {
	out, rest, err := readAir(words)
	if err != nil {
		return Line{}, err
	}
	rest = without(rest)
	if run, used, err := find(rest, names.Runs, "print"); err == nil {
		out.RunID = run.ID
		return out, nothing(rest[used:])
	}
	machine, used, err := find(rest, names.Machines, "machine")
	if err != nil {
		return Line{}, err
	}
	out.MachineID = machine.ID
	return out, nothing(rest[used:])
}

// readAir reads a temperature in °C and, if one follows, a relative humidity in %.
func readAir(words []string) (Line, []string, error) {
	c, rest, ok := measure(words, "°c", "c", "°")
	if !ok {
		return Line{}, nil, fmt.Errorf("lacks how warm the room is, such as 22,5 or 22.5 °C 48 %%")
	}
	out := Line{Does: Room, RoomC: &c}
	if pct, after, ok := measure(rest, "%", "pct"); ok {
		if pct > 100 {
			return Line{}, nil, fmt.Errorf("has %q where it should say the humidity in %%", rest[0])
		}
		out.HumidityPct, rest = &pct, after
	}
	return out, rest, nil
}

// measure reads a number with a decimal point or comma, with its unit joined or after it; not ok
// where no number stands first.
func measure(words []string, units ...string) (v float64, rest []string, ok bool) {
	if len(words) == 0 {
		return 0, words, false
	}
	typed := strings.ToLower(words[0])
	rest = words[1:]
	joined := false
	for _, u := range units {
		if before, cut := strings.CutSuffix(typed, u); cut {
			typed, joined = before, true
			break
		}
	}
	v, err := strconv.ParseFloat(strings.Replace(typed, ",", ".", 1), 64)
	if err != nil || !(v > -100 && v < 1000) {
		return 0, words, false
	}
	if !joined && len(rest) > 0 {
		for _, u := range units {
			if strings.EqualFold(rest[0], u) {
				return v, rest[1:], true
			}
		}
	}
	return v, rest, true
}
