package main

import (
	"strings"
	"testing"
	"time"
)

func TestTheClockBeginsWhereATestSaysAndRunsOn(t *testing.T) {
	begin := time.Date(2031, 2, 28, 23, 59, 0, 0, time.UTC)
	t.Setenv(beginsAt, begin.Format(time.RFC3339))
	now, err := clock()
	if err != nil {
		t.Fatal(err)
	}
	first := now()
	for now().Equal(first) { // a clock that stood still would stay here
	}
	if first.Before(begin) || first.After(begin.Add(time.Hour)) {
		t.Errorf("begun at %v, it says %v", begin, first)
	}
	t.Setenv(beginsAt, "yesterday")
	if _, err := clock(); err == nil || !strings.Contains(err.Error(), "yesterday") {
		t.Errorf("an instant that is none: %v", err)
	}
}
