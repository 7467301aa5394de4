package bench

import "database/sql/driver"

// SetUpRef names a set-up of a review: its settings, and since which knot, in words; empty
// for one that no knot parts.
type SetUpRef struct {
	ProfileID string `json:"profile_id" minLength:"1"`
	Since     string `json:"since" required:"false"`
}

// Declaration says which measure decides a review, for all set-ups against one or for one
// pair, when that was declared, and how many prints were on record by then. One without a
// measure takes back what was declared before.
type Declaration struct {
	Measure    string    `json:"measure"`
	Label      string    `json:"label"`
	Against    *SetUpRef `json:"against"`
	Of         *SetUpRef `json:"of"`
	DeclaredMS int64     `json:"declared_ms"`
	Prints     int64     `json:"prints"`
}

// Declarations are what a review declared, in their order.
type Declarations []Declaration

// Stands is the declaration that holds, nil where nothing is declared.
func (d Declarations) Stands() *Declaration {
	if len(d) == 0 || d[len(d)-1].Measure == "" {
		return nil
	}
	return &d[len(d)-1]
}

// Value stores the list as JSON text.
func (d Declarations) Value() (driver.Value, error) { return listValue(d) }

// Scan reads what Value stored.
func (d *Declarations) Scan(from any) error { return scanList(from, d) }

// SetUpName is what a set-up of a review is called; empty for one that is only put in its
// place.
type SetUpName struct {
	SetUpRef
	Name string `json:"name" required:"false"`
}

// SetUpNames are set-ups in the order of a review.
type SetUpNames []SetUpName

// Value stores the list as JSON text.
func (n SetUpNames) Value() (driver.Value, error) { return listValue(n) }

// Scan reads what Value stored.
func (n *SetUpNames) Scan(from any) error { return scanList(from, n) }

// At is the place and the name of a set-up; those that are not named come after all others.
func (n SetUpNames) At(ref SetUpRef) (place int, name string) {
	for i, one := range n {
		if one.SetUpRef == ref {
			return i, one.Name
		}
	}
	return len(n), ""
}
