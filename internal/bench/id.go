package bench

import (
	"errors"
	"fmt"
	"io"
	"strings"

	"ojime/internal/core/quantity"
)

// Sentinels that callers branch on.
var (
	// ErrNotFound says that an entry asked for does not exist.
	ErrNotFound = errors.New("not found")
	// ErrStale says that an entry was changed since it was read.
	ErrStale = errors.New("changed elsewhere since it was read")
	// ErrConflict says that a rule of the record forbids the change.
	ErrConflict = errors.New("not possible now")
	// ErrDone says that a command was done already, and that its answer is told no more. It is an ErrConflict.
	ErrDone = fmt.Errorf("done already: %w", ErrConflict)
	// ErrFull says that the disk is full, so that nothing of a change was kept.
	ErrFull = errors.New("the disk is full")
	// ErrReadOnly says that the record was opened to be looked at.
	ErrReadOnly = errors.New("this record can only be looked at; nothing can be changed")
)

// ErrQuestioned says that a value is hard to believe and must be confirmed before it is
// kept.
var ErrQuestioned = errors.New("questioned")

// Questioned asks once about a value of a field: kept when it is confirmed.
func Questioned(field, format string, args ...any) error {
	return fmt.Errorf("%w: %w", ErrQuestioned, quantity.Errorf(field, format, args...))
}

// StaleError is ErrStale with what changed meanwhile, one sentence each.
type StaleError struct{ Changed []string }

func (e *StaleError) Error() string { return strings.Join(e.Changed, "; ") }

// Is makes a StaleError an ErrStale.
func (e *StaleError) Is(target error) bool { return target == ErrStale }

const idAlphabet = "0123456789abcdefghjkmnpqrstvwxyz"

// idLength is 10 characters of time and 8 of chance: 50 and 40 bits.
const idLength = 18

// NewID makes an id that sorts by time: UTC milliseconds, then random letters,
// 5 bits a character. It fails only when random does.
func NewID(nowMS int64, random io.Reader) (string, error) {
	var chance [8]byte
	if _, err := io.ReadFull(random, chance[:]); err != nil {
		return "", fmt.Errorf("draw an id: %w", err)
	}
	out := make([]byte, idLength)
	for i := 9; i >= 0; i-- {
		out[i] = idAlphabet[nowMS&31]
		nowMS >>= 5
	}
	for i, b := range chance {
		out[10+i] = idAlphabet[b&31]
	}
	return string(out), nil
}

// Code is the short name for people and labels, such as M2 or R-014.
func Code(table string, number int64) string {
	switch table {
	case "machine":
		return fmt.Sprintf("M%d", number)
	case "resin":
		return fmt.Sprintf("L%d", number)
	case "bottle":
		return fmt.Sprintf("B%d", number)
	case "piece":
		return fmt.Sprintf("P%d", number)
	case "instrument":
		return fmt.Sprintf("I%d", number)
	case "review":
		return fmt.Sprintf("Q%d", number)
	case "profile":
		return fmt.Sprintf("U-%02d", number)
	case "plate":
		return fmt.Sprintf("T-%02d", number)
	case "bath":
		return fmt.Sprintf("W%d", number)
	case "device":
		return fmt.Sprintf("D%d", number)
	case "assembly":
		return fmt.Sprintf("A%d", number)
	case "reference":
		return fmt.Sprintf("F%d", number)
	case "gauge_study":
		return fmt.Sprintf("G%d", number)
	case "stress_series":
		return fmt.Sprintf("X-%02d", number)
	case "reader":
		return fmt.Sprintf("Z%d", number)
	case "claim":
		return fmt.Sprintf("Y-%02d", number)
	case "finding":
		return fmt.Sprintf("N-%02d", number)
	case "workroom":
		return fmt.Sprintf("K%d", number)
	case "panel":
		return fmt.Sprintf("V%d", number)
	case "checklist":
		return fmt.Sprintf("C%d", number)
	case "unit_photograph":
		return fmt.Sprintf("HU-%02d", number)
	case "photograph":
		return fmt.Sprintf("H-%03d", number)
	case "series":
		return fmt.Sprintf("E-%02d", number)
	}
	return fmt.Sprintf("R-%03d", number)
}

// SpecimenCode is the label of one copy, such as S-014-03.
func SpecimenCode(runCode string, number int64) string {
	return fmt.Sprintf("S%s-%02d", runCode[1:], number)
}
