// Package bench is the record: machines, resins, pieces, runs, readings and
// reviews as plain types, and their rules (what may follow what). It knows
// neither how they are stored nor how they are shown. Instants are UTC
// milliseconds (_ms), days are text YYYY-MM-DD (_on).
package bench
