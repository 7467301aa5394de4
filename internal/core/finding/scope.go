package finding

import (
	"fmt"
	"slices"
	"strings"

	"ojime/internal/say"
)

// Bounds are what a finding was found on: the machines, resins and layer heights (µm) of its sides, the temperatures of
// their resin in °C, the piece, and how the eye looked, where one did. Lists hold a value once for each print or
// side; their order does not matter.
type Bounds struct {
	Machines []string
	Resins   []string
	LayersUM []float64
	TempsC   []float64
	// Prints are those of all sides, TempsKnown how many of them have a temperature.
	Prints int
	Piece  string
	Kind   string
	View   string
}

// Scope says in one line on what something was found, so that nobody reads it as more: one unit of a machine is no model
// line, and one resin is not every resin.
func Scope(b Bounds) string {
	var parts []string
	machines, resins := once(b.Machines), once(b.Resins)
	switch len(machines) {
	case 0:
	case 1:
		parts = append(parts, "one machine, "+machines[0])
	default:
		parts = append(parts, "one unit each of "+say.List(machines))
	}
	switch len(resins) {
	case 0:
	case 1:
		parts = append(parts, "one resin, "+resins[0])
	default:
		parts = append(parts, say.Counted(int64(len(resins)), "resin"))
	}
	if span := spanOf(b.LayersUM); span != "" {
		parts = append(parts, span+" µm layers")
	}
	if span := spanOf(b.TempsC); span != "" {
		if len(b.TempsC) < b.Prints {
			parts = append(parts, fmt.Sprintf("resin at %s °C as far as it was read (%d of %s)", span, len(b.TempsC), say.Counted(int64(b.Prints), "print")))
		} else {
			parts = append(parts, "resin at "+span+" °C")
		}
	} else if b.Prints > 0 {
		parts = append(parts, "temperature not read")
	}
	if b.Piece != "" {
		piece := b.Piece
		if b.Kind != "" {
			piece += " (" + b.Kind + ")"
		}
		parts = append(parts, piece)
	}
	if b.View != "" {
		parts = append(parts, b.View)
	}
	return strings.Join(parts, "; ")
}

func once(list []string) []string {
	out := slices.DeleteFunc(slices.Clone(list), func(s string) bool { return s == "" })
	slices.Sort(out)
	return slices.Compact(out)
}

func spanOf(list []float64) string {
	if len(list) == 0 {
		return ""
	}
	least, most := say.Figures(slices.Min(list), 3), say.Figures(slices.Max(list), 3)
	if least == most {
		return least
	}
	return least + " to " + most
}
