package main

import (
	"bufio"
	"bytes"
	"encoding/json"
	"fmt"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync/atomic"
	"testing"
)

// start runs the real program on a free port and returns its process and
// address once it has printed it.
func start(t *testing.T, binary, data string) (*exec.Cmd, string) {
	t.Helper()
	cmd := exec.Command(binary, "serve", "--addr", "127.0.0.1:0", "--data", data)
	cmd.Stderr = os.Stderr
	out, err := cmd.StdoutPipe()
	if err != nil {
		t.Fatal(err)
	}
	if err := cmd.Start(); err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = cmd.Process.Kill() }) // it may be gone already
	line, err := bufio.NewReader(out).ReadString('\n')
	_, address, found := strings.Cut(strings.TrimSpace(line), "http://")
	if err != nil || !found {
		t.Fatalf("the program said %q (%v), not its address", line, err)
	}
	return cmd, "http://" + address
}

// Four writers stream; the program is killed without warning after enough was
// acknowledged. Everything acknowledged must be there when it starts again.
func TestKillLosesNothingAcknowledged(t *testing.T) {
	binary := filepath.Join(t.TempDir(), "ojime")
	if out, err := exec.Command("go", "build", "-o", binary, ".").CombinedOutput(); err != nil {
		t.Fatalf("build: %v\n%s", err, out)
	}
	data := t.TempDir()
	cmd, address := start(t, binary, data)
	const writers, enough = 4, 60
	acknowledged := make(chan string, 10_000)
	var count atomic.Int64
	done := make(chan struct{}, writers)
	for w := range writers {
		go func() {
			defer func() { done <- struct{}{} }()
			for i := 0; ; i++ {
				name := fmt.Sprintf("Caliper %d-%d", w, i)
				body, _ := json.Marshal(map[string]any{"name": name, "resolution_mm": 0.01, "reference_u_mm": 0.01}) // plain values encode
				res, err := http.Post(address+"/api/v1/instruments", "application/json", bytes.NewReader(body))
				if err != nil {
					return // killed
				}
				_ = res.Body.Close()
				if res.StatusCode != http.StatusOK {
					t.Errorf("status %d for %s", res.StatusCode, name)
					return
				}
				acknowledged <- name
				if count.Add(1) == enough {
					_ = cmd.Process.Kill() // that it ends the writers is the proof
				}
			}
		}()
	}
	for range writers {
		<-done
	}
	close(acknowledged)
	_ = cmd.Wait() // it was killed

	_, address = start(t, binary, data)
	res, err := http.Get(address + "/api/v1/instruments")
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = res.Body.Close() }()
	var list []struct{ Name string }
	if err := json.NewDecoder(res.Body).Decode(&list); err != nil {
		t.Fatal(err)
	}
	there := map[string]bool{}
	for _, i := range list {
		there[i.Name] = true
	}
	total := 0
	for name := range acknowledged {
		total++
		if !there[name] {
			t.Errorf("%s was acknowledged and is lost", name)
		}
	}
	if total < enough {
		t.Errorf("only %d writes were acknowledged; the test saw too little", total)
	}
}

func TestCommandsSayWhatIsWrong(t *testing.T) {
	var out bytes.Buffer
	for _, c := range []struct {
		args []string
		want string
	}{
		{nil, "no command"},
		{[]string{"print"}, `no command "print"`},
		{[]string{"backup", "--data", t.TempDir()}, "name the file"},
		{[]string{"serve", "--addr", "0.0.0.0:0", "--data", t.TempDir()}, "passphrase"},
		{[]string{"serve", "--addr", "8420", "--data", t.TempDir()}, "HOST:PORT"},
	} {
		if err := run(t.Context(), c.args, &out); err == nil || !strings.Contains(err.Error(), c.want) {
			t.Errorf("%v: error %v, want one with %q", c.args, err, c.want)
		}
	}
}

func TestCheckAndBackupOfAnEmptyRecord(t *testing.T) {
	data, copied := t.TempDir(), filepath.Join(t.TempDir(), "copy.db")
	var out bytes.Buffer
	for _, args := range [][]string{{"check", "--data", data}, {"backup", "--data", data, copied}} {
		if err := run(t.Context(), args, &out); err != nil {
			t.Errorf("%v: %v", args, err)
		}
	}
	if info, err := os.Stat(copied); err != nil || info.Size() == 0 || !strings.Contains(out.String(), "whole") {
		t.Errorf("backup %v (%v), said %q", info, err, out.String())
	}
}
