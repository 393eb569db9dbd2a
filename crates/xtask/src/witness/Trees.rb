# Answers with the tree of each text that it is given, one node a line, without places: a text is a line
# with its length in bytes, and as many bytes; so is an answer, whose first line says whether it was read.

# What stands between two marks that end a statement is nothing, and a block of one statement is that.
def own(node)
  return node unless node.is_a?(RubyVM::AbstractSyntaxTree::Node)

  case node.type
  when :BEGIN then node.children == [nil] ? nil : node
  when :BLOCK
    some = node.children.map { |child| own(child) }.compact
    some.size > 1 ? node : some.first
  else node
  end
end

def write(node, depth, lines)
  node = own(node)
  indent = " " * depth
  case node
  when RubyVM::AbstractSyntaxTree::Node
    lines << "#{indent}#{node.type}"
    children = node.children
    children = children.map { |child| own(child) }.compact if node.type == :BLOCK
    children.each { |child| write(child, depth + 1, lines) }
  when Array
    lines << "#{indent}["
    node.each { |child| write(child, depth + 1, lines) }
  else
    lines << "#{indent}#{node.inspect}"
  end
end

def answer(text)
  # The number of a line is no part of the program.
  tree = RubyVM::AbstractSyntaxTree.parse(text.gsub("__LINE__", "nil"))
  lines = ["read"]
  write(tree, 0, lines)
  lines.join("\n")
rescue SyntaxError, ArgumentError, SystemStackError => e
  "not read\n#{e.message}"
end

$stdin.binmode
$stdout.binmode
while (length = $stdin.gets)
  said = answer($stdin.read(length.to_i).force_encoding("UTF-8")).b
  $stdout.write("#{said.bytesize}\n", said)
  $stdout.flush
end
