package browser

import (
	"bufio"
	"fmt"
	"net"
	"os"
	"os/exec"
	"strings"
	"syscall"
)

// Server is the program, running.
type Server struct {
	URL          string
	Binary, Data string
	Port         int
	args         []string
	cmd          *exec.Cmd
	setup        chan string
}

// StartDemo starts the binary with the demo on a free port of this machine.
func StartDemo(binary, data string) (*Server, error) { return StartServer(binary, data, "--demo") }

// StartServer starts the binary on a free port of this machine.
func StartServer(binary, data string, args ...string) (*Server, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return nil, fmt.Errorf("finding a free port: %w", err)
	}
	port := l.Addr().(*net.TCPAddr).Port
	if err := l.Close(); err != nil {
		return nil, err
	}
	s := &Server{URL: fmt.Sprintf("http://127.0.0.1:%d", port), Binary: binary, Data: data, Port: port, args: args}
	return s, s.Start()
}

// Start starts it (again) on its port and waits until it listens.
func (s *Server) Start() error {
	args := append([]string{"serve", "--quiet", "--host", "127.0.0.1", "--port", fmt.Sprint(s.Port), "--data",
		s.Data}, s.args...)
	s.cmd = exec.Command(s.Binary, args...)
	s.cmd.Stderr = os.Stderr
	out, err := s.cmd.StdoutPipe()
	if err != nil {
		return err
	}
	if err := s.cmd.Start(); err != nil {
		return fmt.Errorf("starting %s: %w", s.Binary, err)
	}
	lines := bufio.NewScanner(out)
	for lines.Scan() {
		if strings.Contains(lines.Text(), "http://") {
			s.setup = make(chan string, 1)
			go s.read(lines)
			return nil
		}
	}
	return fmt.Errorf("%s ended before it listened: %w", s.Binary, s.cmd.Wait())
}

// SetupPath is the path of the link that it prints where nobody is there yet.
func (s *Server) SetupPath() string { return <-s.setup }

// PID is the number of its process.
func (s *Server) PID() int { return s.cmd.Process.Pid }

// Memory is the most that it has had resident, in MB; 0 where that is not told.
func (s *Server) Memory() int {
	status, _ := os.ReadFile(fmt.Sprintf("/proc/%d/status", s.cmd.Process.Pid))
	for line := range strings.Lines(string(status)) {
		var kB int
		if n, _ := fmt.Sscanf(line, "VmHWM: %d kB", &kB); n == 1 {
			return kB / 1024
		}
	}
	return 0
}

// Kill ends it at once, as a power cut would.
func (s *Server) Kill() error {
	if err := s.cmd.Process.Kill(); err != nil {
		return err
	}
	_ = s.cmd.Wait() // "killed" is what was wanted
	return nil
}

// Stop asks it to finish, and reports how it ended.
func (s *Server) Stop() error {
	if err := s.cmd.Process.Signal(syscall.SIGTERM); err != nil {
		return err
	}
	return s.cmd.Wait()
}

// read goes on reading what the program prints.
func (s *Server) read(lines *bufio.Scanner) {
	for lines.Scan() {
		if _, path, ok := strings.Cut(lines.Text(), "/setup/"); ok {
			s.setup <- "/setup/" + path
		}
	}
}
