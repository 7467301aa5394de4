package optics

import (
	"fmt"

	"ojime/internal/core/quantity"
)

// MostAcross bounds a grid of light readings, in either direction.
const MostAcross = 15

// EvennessInput is what a meter read over a plate: rows from the front to the back, and in each
// from the left to the right; all above 0, in one unit, whichever it is; 2 to 15 rows of alike 2
// to 15 readings.
type EvennessInput struct {
	Readings [][]float64 `json:"readings"`
}

// Evenness is how even the light is. Pct are the readings in % of their mean, LeastPct and MostPct
// the ends of them. Weakest is where the least stands, the first from the front left of those
// alike. ToMean is by how much longer an exposure would have to be there for the dose that it gives
// at the mean (1 where the light is even).
type Evenness struct {
	Mean     float64     `json:"mean"`
	Pct      [][]float64 `json:"pct"`
	LeastPct float64     `json:"least_pct"`
	MostPct  float64     `json:"most_pct"`
	Weakest  GridPlace   `json:"weakest"`
	ToMean   float64     `json:"to_mean"`
}

// GridPlace is a place in a grid, counted from 0 from the front left, and what it is called.
type GridPlace struct {
	Row    int    `json:"row"`
	Column int    `json:"column"`
	Where  string `json:"where"`
}

// Even works out how even the light is. What is no grid is an error of readings that names the
// place. Source: shares of the mean; dose is irradiance times time.
func Even(in EvennessInput) (Evenness, error) {
	rows := len(in.Readings)
	if rows < 2 || rows > MostAcross {
		return Evenness{}, quantity.Errorf("readings", "has %d rows; a grid has 2 to %d", rows, MostAcross)
	}
	columns := len(in.Readings[0])
	if columns < 2 || columns > MostAcross {
		return Evenness{}, quantity.Errorf("readings[0]", "has %d readings; a row has 2 to %d", columns, MostAcross)
	}
	sum := 0.0
	for i, row := range in.Readings {
		if len(row) != columns {
			return Evenness{}, quantity.Errorf(fmt.Sprintf("readings[%d]", i), "has %d readings; the first row has %d", len(row), columns)
		}
		var c quantity.Checks
		for j, v := range row {
			c.Above(fmt.Sprintf("readings[%d][%d]", i, j), v)
			sum += v
		}
		if c.Err() != nil {
			return Evenness{}, c.Err()
		}
	}
	out := Evenness{Mean: sum / float64(rows*columns), Pct: make([][]float64, rows)}
	for i, row := range in.Readings {
		out.Pct[i] = make([]float64, columns)
		for j, v := range row {
			pct := 100 * v / out.Mean
			out.Pct[i][j] = pct
			if i+j == 0 || quantity.Less(pct, out.LeastPct) {
				out.LeastPct, out.Weakest = pct, GridPlace{i, j, whereIn(i, j, rows, columns)}
			}
			if i+j == 0 || pct > out.MostPct {
				out.MostPct = pct
			}
		}
	}
	out.ToMean = 100 / out.LeastPct
	return out, nil
}

// whereIn names a place of a grid by thirds: at the back left, at the front, in the middle.
func whereIn(row, column, rows, columns int) string {
	third := func(i, n int, low, middle, high string) string {
		switch at := 3 * (2*i + 1); {
		case at < 2*n:
			return low
		case at > 4*n:
			return high
		}
		return middle
	}
	deep, across := third(row, rows, "front", "", "back"), third(column, columns, "left", "", "right")
	switch {
	case deep == "" && across == "":
		return "in the middle"
	case deep == "":
		return "at the " + across
	case across == "":
		return "at the " + deep
	}
	return "at the " + deep + " " + across
}

// At is the light at a place of the plate in % of its mean: across from 0 at the left to 1 at the
// right, deep from 0 at the front to 1 at the back. Each reading stands in the middle of its field;
// between the middles it is interpolated in both directions, outside the outermost the nearest counts.
// A place off the plate is taken to its edge.
func (e Evenness) At(across, deep float64) float64 {
	rows, columns := len(e.Pct), len(e.Pct[0])
	row, down := between(deep, rows)
	column, right := between(across, columns)
	nextRow, nextColumn := min(row+1, rows-1), min(column+1, columns-1)
	front := e.Pct[row][column]*(1-right) + e.Pct[row][nextColumn]*right
	back := e.Pct[nextRow][column]*(1-right) + e.Pct[nextRow][nextColumn]*right
	return front*(1-down) + back*down
}

// between is the field before a place, and how far the place lies towards the middle of the next.
func between(at float64, fields int) (field int, share float64) {
	middle := min(max(at*float64(fields)-0.5, 0), float64(fields-1))
	field = int(middle)
	return field, middle - float64(field)
}
