package record

import (
	"fmt"

	"ojime/internal/core/quantity"
	"ojime/internal/work/task"
)

// blocksFit holds the parts of write-ups against the photographs on record.
func (r *Record) blocksFit(known identities) func() error {
	return func() error {
		for i, review := range r.Reviews {
			if err := review.Blocks.Check(); err != nil {
				return task.WithPrefix(fmt.Sprintf("reviews[%d].", i), err)
			}
			for j, b := range review.Blocks {
				for k, p := range b.Pictures {
					if !known["photographs"][p.PhotographID] {
						return quantity.Errorf(fmt.Sprintf("reviews[%d].blocks[%d].pictures[%d].photograph_id", i, j, k), "names %.40q, which is not among the photographs", p.PhotographID)
					}
				}
			}
		}
		return nil
	}
}

// budgetsFit holds the set-ups that ways to go on are measured on against the settings on record.
func (r *Record) budgetsFit(known identities) func() error {
	return func() error {
		for i, b := range r.Budgets {
			for j, p := range b.Paths {
				if p.MeasuredOn != nil && !known["profiles"][p.MeasuredOn.ProfileID] {
					return quantity.Errorf(fmt.Sprintf("budgets[%d].paths[%d].measured_on", i, j), "names settings %.40q, which are not among the profiles", p.MeasuredOn.ProfileID)
				}
			}
		}
		return nil
	}
}

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
