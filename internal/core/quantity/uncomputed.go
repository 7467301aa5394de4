package quantity

import (
	"errors"
	"fmt"
)

// NotComputableError says that something can't be worked out because of what is not known, or because it lies outside what a
// model is made for. Missing is a sentence that says what it would take.
type NotComputableError struct{ Missing string }

func (e *NotComputableError) Error() string { return e.Missing }

// NotComputable makes a NotComputableError.
func NotComputable(format string, args ...any) error {
	return &NotComputableError{fmt.Sprintf(format, args...)}
}

// Uncomputed is a part of a page, comparison or write-up that can't be worked out, with the sentence that stands in its place.
type Uncomputed struct {
	Part string `json:"part"`
	Why  string `json:"why"`
}

// Gaps are the parts that can't be worked out. The zero value has none.
type Gaps []Uncomputed

// Leave notes why a part can't be worked out and returns nil, so that the rest goes on: for a NotComputableError, and for a
// value on record that a model refuses (a FieldError). Any other error, of the database or the program, it returns as it is.
func (g *Gaps) Leave(part string, err error) error {
	why, known := WhyNot(err)
	if err == nil || !known {
		return err
	}
	gap := Uncomputed{Part: part, Why: why}
	for _, noted := range *g {
		if noted == gap {
			return nil
		}
	}
	*g = append(*g, gap)
	return nil
}

// WhyNot is the sentence of an error that says why something can't be worked out; known is false for any other error.
func WhyNot(err error) (why string, known bool) {
	var missing *NotComputableError
	if errors.As(err, &missing) {
		return missing.Missing, true
	}
	var field *FieldError
	if errors.As(err, &field) {
		return fmt.Sprintf("A value on record can't be used here: %s %s.", field.Path, field.Message), true
	}
	return "", false
}
