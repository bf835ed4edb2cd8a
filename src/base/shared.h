#pragma once

#include <algorithm>
#include <cstddef>
#include <initializer_list>
#include <iterator>
#include <memory>
#include <type_traits>
#include <utility>
#include <vector>

namespace hasami {

/// A value that its copies share until one of them changes it: copying takes a pointer. What threads share is
/// only read; each changes a copy of its own.
template <class T>
class Shared {
public:
    Shared() : Shared(T()) {}
    Shared(T value) : value_(std::make_shared<T>(std::move(value))) {} // NOLINT: stands in for the value

    template <class List = T>
    Shared(std::initializer_list<typename List::value_type> elements) : Shared(T(elements)) {}

    const T& operator*() const { return *value_; }
    const T* operator->() const { return value_.get(); }
    operator const T&() const { return *value_; } // NOLINT: as above

    /// To be changed: from here on this one has a value of its own.
    T& edit() {
        if (value_.use_count() > 1)
            value_ = std::make_shared<T>(*value_);
        return *value_;
    }

    bool isSameAs(const Shared& other) const { return value_ == other.value_; }

    friend bool operator==(const Shared& a, const Shared& b) {
        return a.isSameAs(b) || *a.value_ == *b.value_;
    }

private:
    std::shared_ptr<T> value_; // never null
};

/// A list whose copies share each of its elements until one of them changes it. Reading through a constant
/// list changes nothing; an element reached through one that is not constant becomes its own.
template <class T>
class SharedElements {
    using Elements = std::vector<Shared<T>>;

    template <bool isConst>
    class Iterator {
    public:
        using iterator_category = std::random_access_iterator_tag;
        using value_type = T;
        using difference_type = std::ptrdiff_t;
        using reference = std::conditional_t<isConst, const T&, T&>;
        using pointer = std::conditional_t<isConst, const T*, T*>;
        using At =
            std::conditional_t<isConst, typename Elements::const_iterator, typename Elements::iterator>;

        Iterator() = default;
        explicit Iterator(At at) : at_(at) {}

        reference operator*() const {
            if constexpr (isConst)
                return **at_;
            else
                return at_->edit();
        }
        pointer operator->() const { return &**this; }
        reference operator[](difference_type by) const { return *(*this + by); }
        Iterator& operator++() { return *this += 1; }
        Iterator operator++(int) { return std::exchange(*this, *this + 1); }
        Iterator& operator--() { return *this += -1; }
        Iterator operator--(int) { return std::exchange(*this, *this + -1); }
        Iterator& operator+=(difference_type by) {
            at_ += by;
            return *this;
        }
        Iterator& operator-=(difference_type by) { return *this += -by; }
        friend Iterator operator+(Iterator i, difference_type by) { return i += by; }
        friend Iterator operator+(difference_type by, Iterator i) { return i += by; }
        friend Iterator operator-(Iterator i, difference_type by) { return i -= by; }
        friend difference_type operator-(const Iterator& a, const Iterator& b) { return a.at_ - b.at_; }
        friend auto operator<=>(const Iterator&, const Iterator&) = default;

    private:
        At at_{};
    };

public:
    using value_type = T;
    using iterator = Iterator<false>;
    using const_iterator = Iterator<true>;

    SharedElements() = default;
    SharedElements(std::initializer_list<T> elements) : elements_(elements.begin(), elements.end()) {}

    std::size_t size() const { return elements_.size(); }
    bool empty() const { return elements_.empty(); }
    const T& operator[](std::size_t i) const { return *elements_[i]; }
    T& operator[](std::size_t i) { return elements_[i].edit(); }
    const T& at(std::size_t i) const { return *elements_.at(i); }
    T& at(std::size_t i) { return elements_.at(i).edit(); }
    const T& front() const { return *elements_.front(); }
    T& front() { return elements_.front().edit(); }
    const T& back() const { return *elements_.back(); }
    T& back() { return elements_.back().edit(); }
    const_iterator begin() const { return const_iterator(elements_.begin()); }
    const_iterator end() const { return const_iterator(elements_.end()); }
    iterator begin() { return iterator(elements_.begin()); }
    iterator end() { return iterator(elements_.end()); }

    void push_back(T element) { elements_.emplace_back(std::move(element)); }
    void pop_back() { elements_.pop_back(); }
    void clear() { elements_.clear(); }
    T& insert(std::size_t place, T element) {
        return elements_.insert(elements_.begin() + std::ptrdiff_t(place), Shared<T>(std::move(element)))
            ->edit();
    }
    void erase(std::size_t place) { elements_.erase(elements_.begin() + std::ptrdiff_t(place)); }

    /// Takes one out and puts it where `to` then is.
    void move(std::size_t from, std::size_t to) {
        Shared<T> moved = elements_[from];
        erase(from);
        elements_.insert(elements_.begin() + std::ptrdiff_t(to), std::move(moved));
    }

    friend bool operator==(const SharedElements& a, const SharedElements& b) {
        return a.elements_ == b.elements_;
    }

private:
    Elements elements_;
};

} // namespace hasami
