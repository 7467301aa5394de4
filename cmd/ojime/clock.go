package main

import (
	"fmt"
	"os"
	"time"
)

// beginsAt names the environment variable by which tests begin the program's time at an instant
// of their own, such as 2026-11-25T14:05:00Z. From there on it runs as usual.
const beginsAt = "OJIME_NOW"

// clock is the time that the record goes by: that of this computer unless a test says otherwise.
func clock() (func() time.Time, error) {
	text := os.Getenv(beginsAt)
	if text == "" {
		return time.Now, nil
	}
	begin, err := time.Parse(time.RFC3339, text)
	if err != nil {
		return nil, fmt.Errorf("%s is %q. Use an instant such as 2026-11-25T14:05:00Z: %w", beginsAt, text, err)
	}
	started := time.Now()
	return func() time.Time { return begin.Add(time.Since(started)).Local() }, nil
}
