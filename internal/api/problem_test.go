package api

import "testing"

func TestFrameworkMessagesReadAsWords(t *testing.T) {
	for message, want := range map[string]string{
		"expected length >= 1":  "is missing; choose or enter it",
		"expected number":       "must be a number",
		"expected number >= 0":  "must be >= 0",
		"expected number > 0":   "must be > 0",
		"expected integer >= 1": "must be >= 1",
		"anything else":         "anything else",
	} {
		if got := plainMessage(message); got != want {
			t.Errorf("%q reads %q, want %q", message, got, want)
		}
	}
}
