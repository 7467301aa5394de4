package dialin

import (
	"context"
	"fmt"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/plan"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
)

// corners names the corners of a plate, as it lies before one.
var corners = map[string]plan.Corner{"front_left": {}, "front_right": {Right: true}, "back_left": {Back: true}, "back_right": {Back: true, Right: true}}

// CellOrder is in which corner the first cell of a plate that is exposed place by place
// was planned, and where it lay: the raised numbers tell. Possible are the corners in
// which it can have lain.
type CellOrder struct {
	Planned  string   `json:"planned"`
	Lay      string   `json:"lay"`
	Possible []string `json:"possible"`
}

// orderOf says how the cells of a series lay, nil where each has a plate of its own.
func orderOf(t *store.Tx, plates []bench.Plate, cells []bench.Cell) (*CellOrder, error) {
	if len(plates) != 1 || len(cells) < 2 {
		return nil, nil
	}
	placements, err := t.PlacementsOfPlate(plates[0].ID)
	if err != nil || len(placements) != len(cells) {
		return nil, err
	}
	out := &CellOrder{Possible: []string{}}
	spots, names := spotsOf(placements), []string{"front_left", "front_right", "back_left", "back_right"}
	planned := slices.IndexFunc(names, func(name string) bool { return corners[name] == plan.CornerOf(spots) })
	out.Planned = names[planned]
	var seen [][]int
	for _, name := range append([]string{out.Planned}, slices.Delete(names, planned, planned+1)...) {
		order, err := plan.TurnedOrder(spots, corners[name])
		if err != nil {
			continue // it cannot have lain so
		}
		if slices.ContainsFunc(seen, func(o []int) bool { return slices.Equal(o, order) }) {
			continue // a single row has no back
		}
		seen, out.Possible = append(seen, order), append(out.Possible, name)
		if out.Lay == "" && exposedSo(placements, order, cells) {
			out.Lay = name
		}
	}
	return out, nil
}

func spotsOf(placements []bench.Placement) [][2]float64 {
	out := make([][2]float64, len(placements))
	for i, p := range placements {
		out[i] = [2]float64{p.XMM, p.YMM}
	}
	return out
}

func exposedSo(placements []bench.Placement, order []int, cells []bench.Cell) bool {
	for i, at := range order {
		if quantity.Or(placements[at].ExposureS, 0) != cells[i].ExposureS {
			return false
		}
	}
	return true
}

// TurnCells says in which corner of the plate the first cell lay. A machine that exposes
// a plate place by place exposes places, not numbers: each cell gets the exposure of the
// place at which it lay, and so do its specimens. What was accepted before stays as it is.
func (w *Tasks) TurnCells(ctx context.Context, id string, version int64, lay, why string) (out SeriesSheet, err error) {
	corner, known := corners[lay]
	if !known {
		return out, quantity.Errorf("lay", "is %q; choose one of the four corners", lay)
	}
	err = w.Write(ctx, &out, func(t *store.Tx) error {
		s, err := t.Series(id)
		if err != nil {
			return err
		}
		if s.Version != version {
			return fmt.Errorf("%s: %w", s.Code, bench.ErrStale)
		}
		if err := w.turn(t, s, corner, why); err != nil {
			return err
		}
		s.Version++
		if err := t.SaveSeries(s); err != nil {
			return err
		}
		out, err = ReadSeries(t, id)
		return err
	})
	return out, err
}

func (w *Tasks) turn(t *store.Tx, s bench.Series, corner plan.Corner, why string) error {
	cells, err := t.CellsOfSeries(s.ID)
	if err != nil {
		return err
	}
	plates, err := t.PlatesOfSeries(s.ID)
	if err != nil {
		return err
	}
	if len(plates) != 1 || len(cells) < 2 {
		return quantity.Errorf("lay", "concerns cells that share one plate; those of %s do not", s.Code)
	}
	placements, err := t.PlacementsOfPlate(plates[0].ID)
	if err != nil {
		return err
	}
	order, err := plan.TurnedOrder(spotsOf(placements), corner)
	if err != nil || len(order) != len(cells) {
		return quantity.Errorf("lay", "cannot be so: the cells do not fill their rows, and one would lie where none was planned")
	}
	before, after := map[string]float64{}, map[string]float64{}
	for i, c := range cells {
		name := fmt.Sprintf("cell %d", c.Number)
		before[name] = c.ExposureS
		c.ExposureS = quantity.Or(placements[order[i]].ExposureS, c.ExposureS)
		after[name] = c.ExposureS
		if err := t.SaveCell(c); err != nil {
			return err
		}
	}
	if err := turnSpecimens(t, plates[0].ID, placements, order); err != nil {
		return err
	}
	return w.Note(t, "series", s.ID, "say where the cells lay", why, before, after)
}

// turnSpecimens gives the specimens of the plate's prints the exposures of the places at
// which they lay.
func turnSpecimens(t *store.Tx, plateID string, placements []bench.Placement, order []int) error {
	runs, err := t.RunsOfPlate(plateID)
	if err != nil {
		return err
	}
	for _, r := range runs {
		specimens, err := t.SpecimensOfRun(r.ID)
		if err != nil {
			return err
		}
		for i, s := range specimens {
			if i >= len(order) {
				break
			}
			s.ExposureS = placements[order[i]].ExposureS
			if err := t.SaveSpecimen(s); err != nil {
				return err
			}
		}
	}
	return nil
}
