package kit

import (
	"ojime/internal/bench"
	"ojime/internal/core/cost"
)

// Consumables are those with a price and a stated life on record.
func Consumables(m bench.Machine) []cost.Consumable {
	var out []cost.Consumable
	if m.FilmPrice != nil && m.FilmLifeLayers != nil {
		out = append(out, cost.Consumable{Name: "film", Price: *m.FilmPrice, Life: *m.FilmLifeLayers, Unit: "layer"})
	}
	if m.LightPrice != nil && m.LightLifeH != nil {
		out = append(out, cost.Consumable{Name: "light source", Price: *m.LightPrice, Life: *m.LightLifeH * 3600, Unit: "light_s"})
	}
	return out
}
