;;; The client that comes with an editor in Lisp, without a screen: quick saves, a hook that formats
;;; before each save, and undo. Usage: emacs -q -nw -l eglot.el, with KANONIX (the program), FOLDER (a
;;; repository with a committed a.py) and SAID (a file for the outcome) in the surroundings.

(package-initialize)
(require 'eglot)
(setq warning-minimum-level :error
      native-comp-async-report-warnings-errors nil
      make-backup-files nil
      auto-save-default nil
      create-lockfiles nil
      eglot-autoshutdown t
      eglot-confirm-server-initiated-edits nil)

(defvar kanonix-ci-file nil)

(defun kanonix-ci-say (&rest words)
  (write-region (concat (apply #'format words) "\n") nil (getenv "SAID") t 'quiet))

(defun kanonix-ci-on-disk ()
  (with-temp-buffer
    (insert-file-contents kanonix-ci-file)
    (buffer-string)))

(defun kanonix-ci-want (name wanted found)
  (if (equal wanted found)
      (kanonix-ci-say "ok: %s" name)
    (kanonix-ci-say "not ok: %s: wanted %S, found %S" name wanted found)))

(defun kanonix-ci-type (text)
  "Types TEXT before everything, as keys do, and saves within the client's idle time."
  (goto-char (point-min))
  (dolist (key (string-to-list text))
    (self-insert-command 1 key))
  (undo-boundary)
  (save-buffer))

(defun kanonix-ci-is-said (words seconds)
  "Whether the server has said WORDS, or does so within so many SECONDS."
  (let ((end (+ (float-time) seconds)) said)
    (while (not (or said (> (float-time) end)))
      (setq said (with-current-buffer "*Messages*"
                   (and (string-match-p words (buffer-string)) t)))
      (unless said (accept-process-output nil 0.1)))
    said))

(defun kanonix-ci-connect (&rest options)
  (eglot '(python-mode) (project-current) 'eglot-lsp-server
         (append (list (getenv "KANONIX") "lsp") options) "python"))

(defun kanonix-ci ()
  (setq kanonix-ci-file (expand-file-name "a.py" (getenv "FOLDER")))
  (find-file kanonix-ci-file)
  (electric-indent-local-mode -1)
  (let ((old (buffer-string)))
    (kanonix-ci-connect)
    ;; Nothing is written in a wrong place, however quick the save is.
    (kanonix-ci-type "b='flood'; c=1")
    (kanonix-ci-type "a='slack'; ")
    (kanonix-ci-want "quick saves" (concat "a='slack'; b='flood'; c=1" old) (kanonix-ci-on-disk))
    ;; The recipe: the editor formats before it saves.
    (add-hook 'before-save-hook #'eglot-format-buffer nil t)
    (kanonix-ci-type "d='ebb'\n")
    (kanonix-ci-want "a hook that formats"
                     (concat "d = \"ebb\"\na = \"slack\"\nb = \"flood\"\nc = 1" old)
                     (kanonix-ci-on-disk))
    (kanonix-ci-type "e='neap'\n")
    (kanonix-ci-want "once more"
                     (concat "e = \"neap\"\nd = \"ebb\"\na = \"slack\"\nb = \"flood\"\nc = 1" old)
                     (kanonix-ci-on-disk))
    ;; What was mended is taken back like anything else.
    (let ((before (buffer-string)))
      (undo-boundary)
      (undo-only 1)
      (kanonix-ci-want "undo" t (string-prefix-p "e='neap'\n" (buffer-string)))
      (undo-boundary)
      (undo-redo 1)
      (kanonix-ci-want "redo" before (buffer-string))
      (save-buffer)))
  ;; Somebody who asks for edits on save all the same: they meet an older text once, and no more.
  (remove-hook 'before-save-hook #'eglot-format-buffer t)
  (call-interactively #'eglot-shutdown)
  (kanonix-ci-connect :initializationOptions '(:mendOnSave t))
  (let ((words "Nothing is mended on save any more") (tries 0))
    ;; On a busy machine the client may have told in time what was typed.
    (while (and (< tries 8) (not (kanonix-ci-is-said words 1)))
      (kanonix-ci-type "f='spring'\n")
      (kanonix-ci-type "g='noon'\n")
      (setq tries (1+ tries)))
    (kanonix-ci-want "what the server said" t (kanonix-ci-is-said words 10)))
  (let ((before (concat "h='dusk'\n" (buffer-string))))
    (kanonix-ci-type "h='dusk'\n")
    (kanonix-ci-want "nothing more on save" before (kanonix-ci-on-disk))))

(defun kanonix-ci-run ()
  (condition-case problem
      (kanonix-ci)
    (error (kanonix-ci-say "not ok: %S" problem)))
  (kanonix-ci-say "done")
  (set-buffer-modified-p nil)
  (kill-emacs))

(run-with-timer 0.5 nil #'kanonix-ci-run)
