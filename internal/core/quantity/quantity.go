// Package quantity holds what every calculation of the core shares: warnings,
// errors that name a field by its path, and comparisons in which rounding
// noise decides nothing. It knows no formula of the job.
package quantity

import (
	"fmt"
	"math"

	"ojime/internal/say"
)

// RelativeNoise is the relative difference below which two computed numbers
// are equal. Source: the conventions of the computation (1e-9 relative).
const RelativeNoise = 1e-9

// ExpLimit bounds the argument of every exponential: beyond e^±ExpLimit a
// result is not representable with sense and is withheld ("unbounded").
const ExpLimit = 700

// Warning is something weak about a result that a reviewer can act on. Code is
// stable and meant for programs, Message is one sentence.
type Warning struct {
	Code    string `json:"code"`
	Message string `json:"message"`
}

// Warnings collects warnings; each code stands in it at most once. It is
// embedded in every result.
type Warnings struct {
	Warnings []Warning `json:"warnings"`
}

// Warn adds a warning unless its code is already there.
func (w *Warnings) Warn(code, format string, args ...any) {
	for _, old := range w.Warnings {
		if old.Code == code {
			return
		}
	}
	w.Warnings = append(w.Warnings, Warning{Code: code, Message: fmt.Sprintf(format, args...)})
}

// Has reports whether a warning with that code was given.
func (w Warnings) Has(code string) bool {
	for _, old := range w.Warnings {
		if old.Code == code {
			return true
		}
	}
	return false
}

// None is the empty list of warnings, which encodes as [] and not as null.
func None() Warnings { return Warnings{Warnings: []Warning{}} }

// FieldError says which input makes no sense and what to do about it. Path is
// counted from 0, such as points[2].dose.
type FieldError struct {
	Path    string
	Message string
}

func (e *FieldError) Error() string { return e.Path + ": " + e.Message }

// Errorf makes a FieldError.
func Errorf(path, format string, args ...any) error {
	return &FieldError{Path: path, Message: fmt.Sprintf(format, args...)}
}

// Checks collects the first error of a list of checks on input values.
type Checks struct{ err error }

// Err is the first error found, or nil.
func (c *Checks) Err() error { return c.err }

// Fail records an error at path unless one was found before.
func (c *Checks) Fail(path, format string, args ...any) {
	if c.err == nil {
		c.err = Errorf(path, format, args...)
	}
}

// Number demands a finite number.
func (c *Checks) Number(path string, v float64) {
	if math.IsNaN(v) || math.IsInf(v, 0) {
		c.Fail(path, "is not a finite number; enter one")
	}
}

// Above demands a finite number > 0.
func (c *Checks) Above(path string, v float64) {
	c.Number(path, v)
	if v <= 0 {
		c.Fail(path, "is %s; it must be above 0", say.Figures(v, 6))
	}
}

// NotBelow demands a finite number >= 0.
func (c *Checks) NotBelow(path string, v float64) {
	c.Number(path, v)
	if v < 0 {
		c.Fail(path, "is %s; it must not be below 0", say.Figures(v, 6))
	}
}

// AboveIf is Above for an optional value.
func (c *Checks) AboveIf(path string, v *float64) {
	if v != nil {
		c.Above(path, *v)
	}
}

// NotBelowIf is NotBelow for an optional value.
func (c *Checks) NotBelowIf(path string, v *float64) {
	if v != nil {
		c.NotBelow(path, *v)
	}
}

// NumberIf is Number for an optional value.
func (c *Checks) NumberIf(path string, v *float64) {
	if v != nil {
		c.Number(path, *v)
	}
}

// CountAbove demands a whole number >= 1.
func (c *Checks) CountAbove(path string, v int64) {
	if v < 1 {
		c.Fail(path, "is %d; it must be at least 1", v)
	}
}

// CountNotBelow demands a whole number >= 0.
func (c *Checks) CountNotBelow(path string, v int64) {
	if v < 0 {
		c.Fail(path, "is %d; it must not be below 0", v)
	}
}

// OneOf demands one of the words allowed.
func (c *Checks) OneOf(path, v string, allowed ...string) {
	for _, a := range allowed {
		if v == a {
			return
		}
	}
	c.Fail(path, "is %q; use one of %v", v, allowed)
}

// Equal reports whether two computed numbers are equal within RelativeNoise.
func Equal(a, b float64) bool {
	return a == b || math.Abs(a-b) <= RelativeNoise*math.Max(math.Abs(a), math.Abs(b))
}

// Less reports a < b beyond rounding noise.
func Less(a, b float64) bool { return a < b && !Equal(a, b) }

// AtMost reports a <= b, rounding noise counting as equality.
func AtMost(a, b float64) bool { return a <= b || Equal(a, b) }

// Ceil rounds up, taking a value within rounding noise of a whole number for
// that number.
func Ceil(v float64) float64 { return math.Ceil(snap(v)) }

// Floor rounds down, taking a value within rounding noise of a whole number
// for that number.
func Floor(v float64) float64 { return math.Floor(snap(v)) }

// Round rounds half up, with the same care for noise at the halves.
func Round(v float64) float64 { return Floor(v + 0.5) }

func snap(v float64) float64 {
	if whole := math.Round(v); Equal(v, whole) {
		return whole
	}
	return v
}

// Exp is e^x, or nil where x leaves ±ExpLimit or is not finite.
func Exp(x float64) *float64 {
	if math.IsNaN(x) || math.Abs(x) > ExpLimit {
		return nil
	}
	return Ptr(math.Exp(x))
}

// ExpInterval is [e^low, e^high], or nil where either end leaves ±ExpLimit.
func ExpInterval(low, high float64) *Interval {
	a, b := Exp(low), Exp(high)
	if a == nil || b == nil {
		return nil
	}
	return &Interval{*a, *b}
}

// Interval is [low, high] at the 0.95 level unless its field says otherwise.
type Interval [2]float64

// Ptr is a pointer to a copy of v, for optional fields.
func Ptr[T any](v T) *T { return &v }

// Or is the value pointed to, or fallback where there is none.
func Or[T any](p *T, fallback T) T {
	if p == nil {
		return fallback
	}
	return *p
}
