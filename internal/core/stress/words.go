package stress

import (
	"fmt"
	"slices"

	"ojime/internal/core/evidence"
	"ojime/internal/core/mechanics"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// LevelWords is a level with its unit.
func (k Kind) LevelWords(level float64) string {
	switch k.Key {
	case Fit:
		return say.Counted(int64(level), "cycle")
	case Bend:
		return say.Figure(level) + "°"
	}
	return say.Figure(level) + " " + k.Unit
}

// Held is what a specimen did that held at a level, such as "survived a fall from 600 mm".
func (k Kind) Held(level float64) string { return fmt.Sprintf(k.does, k.LevelWords(level)) }

// EnergyMJ is that of a fall of a mass in g from a height in mm, in mJ.
func EnergyMJ(massG, heightMM float64) float64 { return mechanics.EnergyMJ(massG, heightMM) }

// ModeWords say how often a specimen is stressed.
func ModeWords(mode string) string {
	if mode == Cumulative {
		return "one specimen through all levels"
	}
	return "each specimen once"
}

// Advice says before a series begins what so many prints can show. Of says of how many
// prints each set-up's specimens are.
func Advice(mode string, of []int) (out []string) {
	switch len(of) {
	case 0:
		return nil
	case 1:
		out = append(out, "One set-up: this says how much it bears, and sets nothing against anything.")
	default:
		least := of[0]
		for _, n := range of {
			least = min(least, n)
		}
		enough := least
		for evidence.LeastP(enough, enough) >= evidence.Significance {
			enough++
		}
		if enough > least {
			out = append(out, fmt.Sprintf("%s a side can show no difference, whatever breaks: %d a side can, where all of one break and none of the other.", say.Counted(int64(least), "print"), enough))
		}
	}
	if mode == Cumulative {
		out = append(out, "A specimen that climbs is tired by every level before: the level at which it fails stands apart from that of fresh ones.")
	}
	return out
}

// Weights compares the mean masses in g of two sides: heavier is by how much of the lighter
// one the first is heavier (negative: lighter), and matters where that is a tenth or more, so
// that one height is not one energy.
func Weights(a, b *float64) (heavier float64, matters bool) {
	if a == nil || b == nil {
		return 0, false
	}
	heavier = *a / *b - 1
	return heavier, !quantity.Less(max(heavier, 1/(1+heavier)-1), heavyShare)
}

// heavyShare is from which share of more mass on the same height is not the same fall.
const heavyShare = 0.1

// BrokeWords are the parts that broke and how often, the commonest first.
func BrokeWords(parts []string) string {
	var names []string
	times := map[string]int{}
	for _, p := range parts {
		if times[p]++; times[p] == 1 {
			names = append(names, p)
		}
	}
	slices.SortStableFunc(names, func(a, b string) int { return times[b] - times[a] })
	for i, name := range names {
		names[i] = fmt.Sprintf("%s (%d)", name, times[name])
	}
	return say.List(names)
}
