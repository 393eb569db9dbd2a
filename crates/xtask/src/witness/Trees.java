import com.sun.source.tree.*;
import com.sun.source.util.JavacTask;
import com.sun.source.util.TreeScanner;
import java.io.*;
import java.net.URI;
import java.util.List;
import javax.tools.*;

/**
 * Says how the compiler reads each text that comes in: a length in bytes on a line, and the text. The
 * answer has the same form; its first line is `read` or `not read`.
 */
public class Trees {
    public static void main(String[] arguments) throws Exception {
        var in = new BufferedInputStream(System.in);
        var out = new PrintStream(new FileOutputStream(FileDescriptor.out), false, "UTF-8");
        String length;
        while ((length = line(in)) != null) {
            var text = new String(in.readNBytes(Integer.parseInt(length)), "UTF-8");
            var answer = read(text).getBytes("UTF-8");
            out.print(answer.length + "\n");
            out.write(answer);
            out.flush();
        }
    }

    static String line(InputStream in) throws IOException {
        var line = new StringBuilder();
        for (int next = in.read(); next != '\n'; next = in.read()) {
            if (next < 0) {
                return null;
            }
            line.append((char) next);
        }
        return line.toString();
    }

    static String read(String text) throws IOException {
        var compiler = ToolProvider.getSystemJavaCompiler();
        var problems = new DiagnosticCollector<JavaFileObject>();
        var file = new SimpleJavaFileObject(
                URI.create("string:///A.java"),
                JavaFileObject.Kind.SOURCE) {
            @Override
            public CharSequence getCharContent(boolean ignored) {
                return text;
            }
        };
        var options = List.of("-proc:none");
        var task = (JavacTask) compiler.getTask(null, null, problems, options, null, List.of(file));
        var dump = new Dump();
        for (var unit : task.parse()) {
            dump.scan(unit, null);
        }
        for (var problem : problems.getDiagnostics()) {
            if (problem.getKind() == Diagnostic.Kind.ERROR) {
                return "not read\n" + problem;
            }
        }
        return "read\n" + dump.out;
    }

    /** A tree, one node a line. A block around the one statement of a header says nothing. */
    static class Dump extends TreeScanner<Void, Void> {
        final StringBuilder out = new StringBuilder();
        int depth = 0;

        @Override
        public Void scan(Tree tree, Void nothing) {
            if (tree == null) {
                return null;
            }
            out.append(" ".repeat(depth))
                    .append(tree.getKind())
                    .append(' ')
                    .append(own(tree))
                    .append('\n');
            depth++;
            super.scan(tree, nothing);
            depth--;
            return null;
        }

        static String own(Tree tree) {
            if (tree instanceof IdentifierTree name) return name.getName().toString();
            if (tree instanceof MemberSelectTree name) return name.getIdentifier().toString();
            if (tree instanceof MemberReferenceTree name) return name.getMode()
                    + " "
                    + name.getName();
            if (tree instanceof LiteralTree literal) return String.valueOf(literal.getValue())
                    .replace("\n", "\\n");
            if (tree instanceof VariableTree name) return name.getName().toString();
            if (tree instanceof MethodTree name) return name.getName().toString();
            if (tree instanceof ClassTree name) return name.getSimpleName().toString();
            if (tree instanceof TypeParameterTree name) return name.getName().toString();
            if (tree instanceof ModifiersTree modifiers) return modifiers.getFlags().toString();
            if (tree instanceof PrimitiveTypeTree type) return type.getPrimitiveTypeKind()
                    .toString();
            if (tree instanceof LabeledStatementTree label) return label.getLabel().toString();
            if (tree instanceof BreakTree label) return String.valueOf(label.getLabel());
            if (tree instanceof ContinueTree label) return String.valueOf(label.getLabel());
            if (tree instanceof ImportTree names) return (names.isStatic() ? "static " : "")
                    + names.getQualifiedIdentifier();
            if (tree instanceof BlockTree block) return block.isStatic() ? "static" : "";
            return "";
        }

        /** Members by what they are: their order may be agreed. */
        @Override
        public Void visitClass(ClassTree tree, Void nothing) {
            scan(tree.getModifiers(), null);
            scan(tree.getTypeParameters(), null);
            scan(tree.getExtendsClause(), null);
            scan(tree.getImplementsClause(), null);
            scan(tree.getPermitsClause(), null);
            var members = new java.util.ArrayList<String>();
            for (var member : tree.getMembers()) {
                int start = out.length();
                scan(member, null);
                members.add(out.substring(start));
                out.setLength(start);
            }
            java.util.Collections.sort(members);
            members.forEach(out::append);
            return null;
        }

        @Override
        public Void visitImport(ImportTree tree, Void nothing) {
            return null;
        }

        private void body(Tree tree) {
            if (tree instanceof BlockTree block && block.getStatements().size() == 1
                        && !(block.getStatements().get(0) instanceof VariableTree)) {
                tree = block.getStatements().get(0);
            }
            scan(tree, null);
        }

        @Override
        public Void visitIf(IfTree tree, Void nothing) {
            scan(tree.getCondition(), null);
            body(tree.getThenStatement());
            body(tree.getElseStatement());
            return null;
        }

        @Override
        public Void visitWhileLoop(WhileLoopTree tree, Void nothing) {
            scan(tree.getCondition(), null);
            body(tree.getStatement());
            return null;
        }

        @Override
        public Void visitDoWhileLoop(DoWhileLoopTree tree, Void nothing) {
            body(tree.getStatement());
            scan(tree.getCondition(), null);
            return null;
        }

        @Override
        public Void visitForLoop(ForLoopTree tree, Void nothing) {
            scan(tree.getInitializer(), null);
            scan(tree.getCondition(), null);
            scan(tree.getUpdate(), null);
            body(tree.getStatement());
            return null;
        }

        @Override
        public Void visitEnhancedForLoop(EnhancedForLoopTree tree, Void nothing) {
            scan(tree.getVariable(), null);
            scan(tree.getExpression(), null);
            body(tree.getStatement());
            return null;
        }
    }
}
