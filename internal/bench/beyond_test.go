package bench

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"ojime/internal/core/quantity"
)

// What lies beyond the bounds of an entry is named by its path, on both sides of each
// bound; what lies on it is fine.
func TestWhatLiesBeyondTheBounds(t *testing.T) {
	tiny, endless := 1e-306, math.Inf(1)
	for want, change := range map[string]func(*Machine){
		"":                 func(*Machine) {},
		"width_mm":         func(m *Machine) { m.WidthMM = 1e5 + 1 },
		"height_mm":        func(m *Machine) { m.HeightMM = 0 },
		"power_w":          func(m *Machine) { m.PowerW = -1 },
		"price_list":       func(m *Machine) { m.PriceList = &endless },
		"film_life_layers": func(m *Machine) { m.FilmLifeLayers = &tiny },
		"light_life_h":     func(m *Machine) { m.LightLifeH = quantity.Ptr(math.NaN()) },
		"lift[0].mm":       func(m *Machine) { m.Lift[0].MM = 1e308 },
		"name":             func(m *Machine) { m.Name = "" },
		"maker":            func(m *Machine) { m.Maker = strings.Repeat("é", 301) },
		"light_engine":     func(m *Machine) { m.LightEngine = "candle" },
		"px_x":             func(m *Machine) { m.PxX = quantity.Ptr[int64](math.MaxInt64) },
		"created_ms":       func(m *Machine) { m.CreatedMS = quantity.LatestMS + 1 },
	} {
		m := masked()
		m.Lift = append(Moves{}, m.Lift...)
		change(&m)
		got := []string{}
		for _, e := range Beyond(m) {
			got = append(got, e.Path)
		}
		if fmt.Sprint(got) != "["+want+"]" {
			t.Errorf("%s: %v", want, got)
		}
	}
	m := masked()
	m.WidthMM, m.Maker, m.CreatedMS, m.Notes = 1e5, strings.Repeat("é", 300), quantity.LatestMS, strings.Repeat("n", quantity.LongText)
	if got := Beyond(m); len(got) > 0 {
		t.Errorf("on the bounds: %v", got[0])
	}
}
