// Package viewing says how something is looked at: from which station, in which stage of
// its surface, under which light. What is judged or photographed in one way is never brought
// together with what is in another.
package viewing

import (
	"slices"
	"strings"

	"ojime/internal/core/optics"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// Stages are those that a surface goes through, in their order.
var Stages = []string{"raw", "washed", "cured", "varnished", "primed", "painted"}

// Stations are from where one looks, the farthest first: about 1 m, 60 cm, 30 cm, and
// through a loupe.
var Stations = []string{"table", "arms_length", "in_hand", "loupe"}

// View is how something is looked at. Magnification, above 1, is a loupe's alone.
type View struct {
	Station       string
	Magnification *float64
	Stage, Light  string
}

// Check reports a station or stage that is none, a loupe without its magnification, and a
// light that was not said.
func (v View) Check() error {
	var c quantity.Checks
	if strings.TrimSpace(v.Light) == "" {
		c.Fail("light", "is missing; say under which light, such as daylight or a lamp")
	}
	c.OneOf("station", v.Station, Stations...)
	c.OneOf("stage", v.Stage, Stages...)
	if (v.Station == "loupe") != (v.Magnification != nil) {
		c.Fail("magnification", "belongs to a loupe, and a loupe needs it")
	}
	return c.Err()
}

// StationWords is from where one looks, a loupe with its magnification.
func (v View) StationWords() string {
	switch v.Station {
	case "table":
		return "on the table"
	case "arms_length":
		return "at arm's length"
	case "loupe":
		return "under a loupe of " + say.Figure(quantity.Or(v.Magnification, 1)) + " ×"
	}
	return "in hand"
}

// DistanceMM is from how far the bare eye would see as much, in mm.
func (v View) DistanceMM() float64 {
	switch v.Station {
	case "table":
		return optics.TableMM
	case "arms_length":
		return optics.ArmMM
	case "loupe":
		return optics.NearPointMM / quantity.Or(v.Magnification, 1)
	}
	return optics.InHandMM
}

// CompareStages orders stages as a surface goes through them; one that is none stands first.
func CompareStages(a, b string) int { return slices.Index(Stages, a) - slices.Index(Stages, b) }
