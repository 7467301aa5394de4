package compare

import (
	"fmt"

	"ojime/internal/core/contest"
	"ojime/internal/core/evidence"
	"ojime/internal/core/optics"
	"ojime/internal/core/quantity"
	"ojime/internal/core/rating"
	"ojime/internal/say"
	"ojime/internal/work/kit"
	"ojime/internal/work/side"
)

// expectedOf says beside each scored difference of what a machine draws, by its station, what
// optics expects eyes to see of it from there.
func expectedOf(sides []side.Prints, measures []contest.Measure, scales []rating.Scale) ([]string, error) {
	out := []string{}
	distances := distancesOf(sides)
	for _, m := range measures {
		at, rated := seatOfKey(m.Key)
		by := drawnBy(scales, at.scale)
		if !rated || by == "" {
			continue
		}
		for _, p := range m.Pairs {
			a, b := drawnUM(sides[p.A], by), drawnUM(sides[p.B], by)
			if p.Difference == nil || a == nil || b == nil {
				continue
			}
			e, err := optics.Expected(*a, *b, distances[at.station])
			if err != nil {
				return nil, err
			}
			if e != nil {
				out = append(out, fmt.Sprintf("%s: %s by %s µm between %s and %s, %s.", m.Label, map[string]string{rating.ByDot: "pixels or spot differ", rating.ByLayers: "layer heights differ"}[by], say.Figure(e.DifferenceUM), side.Letter(p.A), side.Letter(p.B), e.Words(p.Verdict != evidence.NotShown)))
			}
		}
	}
	return out, nil
}

// distancesOf are from how far the stations of all ratings see, by their words, in mm.
func distancesOf(sides []side.Prints) map[string]float64 {
	out := map[string]float64{}
	for _, s := range sides {
		for _, sheet := range s.Sheets {
			for _, r := range sheet.Ratings {
				view := r.Sitting.View()
				out[view.StationWords()] = view.DistanceMM()
			}
		}
	}
	return out
}

func drawnBy(scales []rating.Scale, key string) string {
	for _, s := range scales {
		if s.Key == key {
			return s.DrawnBy()
		}
	}
	return ""
}

// drawnUM is the size in µm of what a side draws with; nil where it is not known or not one.
func drawnUM(s side.Prints, by string) *float64 {
	if s.Reference != nil {
		return nil
	}
	if by == rating.ByLayers {
		if um := s.LayerUM(); um > 0 {
			return quantity.Ptr(um)
		}
		return nil
	}
	um, _, err := kit.DotUM(s.Machine)
	if err != nil {
		return nil
	}
	return &um
}
