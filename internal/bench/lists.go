package bench

import (
	"database/sql/driver"
	"encoding/json"
	"fmt"

	"ojime/internal/core/coupon"
	"ojime/internal/core/mesh"
	"ojime/internal/core/plan"
	"ojime/internal/core/timing"
)

// Moves are the stages of a lift or retract. Like the other lists here it is
// kept as JSON text in one column: it is read and written as a whole.
type Moves []timing.Move

// Sizes are the rungs of a ladder in millimetres.
type Sizes []float64

// IDs are references to other entries, or names of factors.
type IDs []string

// Notes are sentences, such as what is wrong with a mesh.
type Notes []string

// Value stores the list as JSON text.
func (l Moves) Value() (driver.Value, error) { return listValue(l) }

// Scan reads what Value stored.
func (l *Moves) Scan(from any) error { return scanList(from, l) }

// Value stores the list as JSON text.
func (l Sizes) Value() (driver.Value, error) { return listValue(l) }

// Scan reads what Value stored.
func (l *Sizes) Scan(from any) error { return scanList(from, l) }

// Value stores the list as JSON text.
func (l IDs) Value() (driver.Value, error) { return listValue(l) }

// Scan reads what Value stored.
func (l *IDs) Scan(from any) error { return scanList(from, l) }

// Value stores the list as JSON text.
func (l Notes) Value() (driver.Value, error) { return listValue(l) }

// Scan reads what Value stored.
func (l *Notes) Scan(from any) error { return scanList(from, l) }

// Geometry is what was read off a piece's slices: how hard it is to print and
// what it covers of a plate. Both are nil until that is done.
type Geometry struct {
	Difficulty *mesh.Difficulty `json:"difficulty"`
	Footprint  *plan.Footprint  `json:"footprint"`
}

// CouponChoice is what a coupon of our own was made from; nil for other pieces.
type CouponChoice struct {
	Params *coupon.Params `json:"params"`
}

// Value stores the geometry as JSON text, empty where there is none.
func (g Geometry) Value() (driver.Value, error) {
	if g.Difficulty == nil && g.Footprint == nil {
		return "", nil
	}
	text, err := json.Marshal(g)
	return string(text), err
}

// Scan reads what Value stored.
func (g *Geometry) Scan(from any) error { return scanOptional(from, g) }

// Value stores the choice as JSON text, empty where there is none.
func (c CouponChoice) Value() (driver.Value, error) {
	if c.Params == nil {
		return "", nil
	}
	text, err := json.Marshal(c)
	return string(text), err
}

// Scan reads what Value stored.
func (c *CouponChoice) Scan(from any) error { return scanOptional(from, c) }

func scanOptional(from, into any) error {
	if from == "" {
		return nil
	}
	return scanList(from, into)
}

func listValue[T any](list []T) (driver.Value, error) {
	if list == nil {
		return "[]", nil
	}
	text, err := json.Marshal(list)
	return string(text), err
}

func scanList(from, into any) error {
	text, ok := from.(string)
	if !ok {
		return fmt.Errorf("list column holds %T, not text", from)
	}
	return json.Unmarshal([]byte(text), into)
}
