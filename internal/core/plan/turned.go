package plan

import (
	"math"

	"ojime/internal/core/quantity"
)

// sameSpotMM is by how much two spots of a plate may differ and still be the same, in mm.
const sameSpotMM = 1.0

// Corner is one of the four of a plate, as it lies before one.
type Corner struct{ Back, Right bool }

// CornerOf is the corner that the first of some spots is nearest to, spots being the
// middles of copies, in mm from the front left.
func CornerOf(spots [][2]float64) Corner {
	least, most := reach(spots)
	return Corner{Right: spots[0][0] > (least[0]+most[0])/2, Back: spots[0][1] > (least[1]+most[1])/2}
}

// TurnedOrder says, for copies planned at some spots, at whose spot each lay when the
// first lay in another corner: the plate was turned or mirrored. Each spot must have a
// partner there, as on a grid whose rows are full.
func TurnedOrder(spots [][2]float64, first Corner) ([]int, error) {
	if len(spots) == 0 {
		return nil, quantity.Errorf("spots", "are empty; at least one copy is needed")
	}
	planned, out := CornerOf(spots), make([]int, len(spots))
	least, most := reach(spots)
	for i, p := range spots {
		if first.Right != planned.Right {
			p[0] = least[0] + most[0] - p[0]
		}
		if first.Back != planned.Back {
			p[1] = least[1] + most[1] - p[1]
		}
		out[i] = -1
		for j, q := range spots {
			if math.Hypot(p[0]-q[0], p[1]-q[1]) <= sameSpotMM {
				out[i] = j
			}
		}
		if out[i] < 0 {
			return nil, quantity.Errorf("spots", "do not fill a grid: copy %d would lie where none was planned", i+1)
		}
	}
	return out, nil
}

func reach(spots [][2]float64) (least, most [2]float64) {
	least, most = spots[0], spots[0]
	for _, p := range spots {
		for k := range p {
			least[k], most[k] = math.Min(least[k], p[k]), math.Max(most[k], p[k])
		}
	}
	return least, most
}
