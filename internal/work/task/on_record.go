package task

import "ojime/internal/core/quantity"

// Named is an entry that another names in a field: its id, nil where it names none, and how such an entry is read.
type Named struct {
	Field string
	ID    *string
	Read  func(id string) error
}

// OnRecord refuses, by its field, what is named and not on record.
func OnRecord(named ...Named) error {
	for _, one := range named {
		if one.ID == nil {
			continue
		}
		if err := one.Read(*one.ID); IsMissing(err) {
			return quantity.Errorf(one.Field, "names %.40q, which is not on record", *one.ID)
		} else if err != nil {
			return err
		}
	}
	return nil
}
