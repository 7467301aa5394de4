package record

import (
	"fmt"

	"ojime/internal/core/quantity"
)

// findingsFit holds the set-ups that findings name against the settings on record.
func (r *Record) findingsFit(known identities) func() error {
	return func() error {
		for i := range r.Findings {
			for j, ref := range r.Findings[i].Sides {
				if !known["profiles"][ref.ProfileID] {
					return quantity.Errorf(fmt.Sprintf("findings[%d].sides[%d]", i, j), "names settings %.40q, which are not among the profiles", ref.ProfileID)
				}
			}
		}
		return nil
	}
}
