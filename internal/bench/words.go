package bench

import (
	"regexp"
	"strconv"
	"strings"

	"ojime/internal/core/quantity"
	"ojime/internal/core/timing"
)

// numberWithUnit is a number as people type it, with whatever unit follows.
var numberWithUnit = regexp.MustCompile(`^([+-]?\d+(?:[.,]\d+)?)\s*([^\d\s][^\d]*)?$`)

// ParseQuantity reads a number as people write it, with a decimal comma or point, and the
// unit after it or none: "2,4", "50 µm". A unit other than the one expected is an error.
func ParseQuantity(text, unit string) (float64, error) {
	found := numberWithUnit.FindStringSubmatch(strings.TrimSpace(text))
	if found == nil {
		return 0, quantity.Errorf("value", "%.40q is no number; write one, such as 2.4 %s", text, unit)
	}
	if named := strings.TrimSpace(found[2]); named != "" && named != unit {
		return 0, quantity.Errorf("value", "%.40q is in %.20s; write it in %s", text, named, unit)
	}
	v, err := strconv.ParseFloat(strings.Replace(found[1], ",", ".", 1), 64)
	if err != nil {
		return 0, quantity.Errorf("value", "%.40q is no number: %v", text, err)
	}
	return v, nil
}

var (
	stage     = regexp.MustCompile(`^(\d+(?:[.,]\d+)?)\s*(?:mm)?\s*(?:at|@)\s*(\d+(?:[.,]\d+)?)\s*(?:mm/min)?$`)
	nextStage = regexp.MustCompile(`\s*(?:;|\+|,\s|\bthen\b)\s*`)
)

// mostStages bounds a lift or a retract.
const mostStages = 8

// ParseMoves reads the stages of a lift or retract as people write them: "3 mm at 40
// mm/min, 4 mm at 120 mm/min", or "3 at 40; 4 at 120". Lengths and speeds lie above 0.
func ParseMoves(text string) (Moves, error) {
	var out Moves
	for _, part := range nextStage.Split(strings.TrimSpace(text), mostStages+1) {
		found := stage.FindStringSubmatch(part)
		if found == nil || len(out) == mostStages {
			return nil, quantity.Errorf("value", "%.60q is no lift; write each stage as 3 mm at 40 mm/min, with commas between, up to %d", text, mostStages)
		}
		mm, err := ParseQuantity(found[1], "mm")
		if err != nil {
			return nil, err
		}
		speed, err := ParseQuantity(found[2], "mm/min")
		if err != nil {
			return nil, err
		}
		if mm <= 0 || speed <= 0 {
			return nil, quantity.Errorf("value", "%.60q has a stage of nothing; lengths and speeds lie above 0", text)
		}
		out = append(out, timing.Move{MM: mm, MMMin: speed})
	}
	return out, nil
}
